import { address, type Stage } from '../../frame/stages';

export const pin: Stage = {
  name: 'pin',
  counts: 'steps on the sheet',
  page: async () => (await import('./PinPage')).PinPage,
  place: ({ subject, place }) =>
    address('pin', { part: place?.part, connector: place?.part === 'faces' ? subject : undefined }),
};
