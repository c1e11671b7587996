import { address, type Stage } from '../../frame/stages';

export const prove: Stage = {
  name: 'prove',
  counts: 'gates of powering up that are not passed',
  page: async () => (await import('./ProvePage')).ProvePage,
  place: (f) => address('prove', { part: f.place?.part ?? 'sheet' }),
};
