import { address, type Stage } from '../../frame/stages';

export const handover: Stage = {
  name: 'handover',
  counts: 'temporary, borrowed and put off, and not gone',
  keys: [{ keys: ['1', '2', '3', '4'], does: 'its parts' }],
  page: async () => (await import('./HandoverPage')).HandoverPage,
  place: (f) => address('handover', { part: f.place?.part }),
};
