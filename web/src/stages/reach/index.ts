import { address, type Stage } from '../../frame/stages';

export const reach: Stage = {
  name: 'reach',
  counts: 'steps so that wires reach',
  page: async () => (await import('./ReachPage')).ReachPage,
  place: ({ subject, place }) =>
    address('reach', place?.part ? { part: place.part } : { part: 'cuts', only: 'all', wire: subject }),
};
