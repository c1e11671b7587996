import { address, type Stage } from '../../frame/stages';

export const join: Stage = {
  name: 'join',
  counts: 'functions that need something or are open',
  keys: [
    { keys: ['1', '2', '3'], does: 'its parts' },
    { keys: ['Space'], does: 'tick the step' },
    { keys: ['W', 'G', 'X', 'R'], does: 'wanted, given up, not fitted, reopen' },
    { keys: ['←', '→'], does: 'the position of the key before, the next' },
  ],
  page: async () => (await import('./JoinPage')).JoinPage,
  place: ({ subject }) => (subject ? address('join', { sel: subject }) : 'work'),
};
