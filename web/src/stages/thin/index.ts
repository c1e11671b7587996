import { address, type Stage } from '../../frame/stages';

export const thin: Stage = {
  name: 'thin',
  counts: 'steps not ticked',
  page: async () => (await import('./ThinPage')).ThinPage,
  place: ({ subject, place }) =>
    address('thin', place?.part ? { part: place.part } : { sel: `${place?.of ?? 'wire'}:${subject ?? ''}` }),
};
