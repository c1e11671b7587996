import { address, type Stage } from '../../frame/stages';

export const join: Stage = {
  name: 'join',
  counts: 'functions that need something or are open',
  page: async () => (await import('./JoinPage')).JoinPage,
  place: ({ subject }) => (subject ? address('join', { sel: subject }) : 'work'),
};
