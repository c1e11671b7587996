import { address, type Stage } from '../../frame/stages';

export const handover: Stage = {
  name: 'handover',
  counts: 'temporary, borrowed and put off, and not gone',
  page: async () => (await import('./HandoverPage')).HandoverPage,
  place: (f) => address('handover', { part: f.place?.part }),
};
