import { address, type Stage } from '../../frame/stages';

export const reach: Stage = {
  name: 'reach',
  counts: 'steps so that wires reach',
  keys: [
    { keys: ['1', '2', '3', '4', '5', '6'], does: 'its parts' },
    { keys: ['Space'], does: 'tick the step' },
    { keys: ['M'], does: 'type in the length that was measured' },
  ],
  page: async () => (await import('./ReachPage')).ReachPage,
  place: ({ subject, place }) =>
    address('reach', place?.part ? { part: place.part } : { part: 'cuts', only: 'all', wire: subject }),
};
