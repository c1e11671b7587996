import { address, type Stage } from '../../frame/stages';

export const gather: Stage = {
  name: 'gather',
  counts: 'sides without a pinout',
  keys: [],
  page: async () => (await import('./GatherPage')).GatherPage,
  place: (f) => address('gather', { part: f.place?.part ?? 'lists' }),
};
