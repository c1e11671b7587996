import { address, type Stage } from '../../frame/stages';

export const match: Stage = {
  name: 'match',
  counts: 'rows not decided',
  keys: [
    { keys: ['Enter'], does: 'accept what is offered, or on to the next open row' },
    { keys: ['X'], does: 'reject the candidate' },
    { keys: ['←', '→'], does: 'the candidate before, the next candidate' },
    { keys: ['C'], does: 'choose another cavity' },
    { keys: ['G'], does: 'goes: not wanted any more' },
    { keys: ['N'], does: 'needs a source: then B battery, I ignition, G ground, S switch' },
    { keys: ['E'], does: 'leave a To cavity empty, with the reason' },
    { keys: ['J'], does: 'joins another wire; a lead from another wire' },
    { keys: ['W'], does: 'another way for the wire; a new wire for a cavity' },
    { keys: ['R'], does: 'reopen: take the decision back' },
    { keys: ['A'], does: 'accept all above a certainty' },
  ],
  page: async () => (await import('./MatchPage')).MatchPage,
  rest: true,
  place: (f) => address('match', { row: `${f.side ?? 'from'} ${f.subject ?? ''}` }),
};
