import { address, type Stage } from '../../frame/stages';

export const match: Stage = {
  name: 'match',
  counts: 'rows not decided',
  page: async () => (await import('./MatchPage')).MatchPage,
  rest: true,
  place: (f) => address('match', { row: `${f.side ?? 'from'} ${f.subject ?? ''}` }),
};
