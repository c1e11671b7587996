import { address, type Stage } from '../../frame/stages';

export const prove: Stage = {
  name: 'prove',
  counts: 'gates of powering up that are not passed',
  keys: [
    { keys: ['1', '2', '3', '4', '5'], does: 'its parts' },
    { keys: ['M'], does: 'type in what the meter shows' },
  ],
  page: async () => (await import('./ProvePage')).ProvePage,
  place: (f) => address('prove', { part: f.place?.part ?? 'sheet' }),
};
