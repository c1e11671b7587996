import { address, type Stage } from '../../frame/stages';

export const thin: Stage = {
  name: 'thin',
  counts: 'steps not ticked',
  keys: [
    { keys: ['G'], does: 'goes: not wanted any more' },
    { keys: ['R'], does: 'reopen: take the decision back' },
    { keys: ['K'], does: 'keep what is selected' },
    { keys: ['←', '→'], does: 'fold a system, unfold it' },
    { keys: ['1', '2', '3', '4'], does: 'its parts' },
    { keys: ['Space'], does: 'tick the step' },
  ],
  page: async () => (await import('./ThinPage')).ThinPage,
  place: ({ subject, place }) =>
    address('thin', place?.part ? { part: place.part } : { sel: `${place?.of ?? 'wire'}:${subject ?? ''}` }),
};
