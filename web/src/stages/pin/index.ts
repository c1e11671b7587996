import { address, type Stage } from '../../frame/stages';

export const pin: Stage = {
  name: 'pin',
  counts: 'steps on the sheet',
  keys: [
    { keys: ['1', '2', '3', '4'], does: 'its parts' },
    { keys: ['Space'], does: 'tick the step' },
    { keys: ['Space', 'Enter'], does: 'as planned' },
    { keys: ['X'], does: 'not as planned' },
    { keys: ['R'], does: 'take the answer back' },
    { keys: ['['], does: 'this step before the one above it' },
    { keys: ['O'], does: 'it was done otherwise' },
  ],
  page: async () => (await import('./PinPage')).PinPage,
  place: ({ subject, place }) =>
    address('pin', { part: place?.part, connector: place?.part === 'faces' ? subject : undefined }),
};
