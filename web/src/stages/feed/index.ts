import { address, type Stage } from '../../frame/stages';

export const feed: Stage = {
  name: 'feed',
  counts: 'findings about power, fuses and grounds',
  keys: [
    { keys: ['1', '2', '3', '4', '5'], does: 'its parts' },
    { keys: ['Space'], does: 'tick the step' },
    { keys: ['M'], does: 'move a circuit to another slot; Enter puts it down' },
    { keys: ['O', 'A', 'R', 'C', 'E'], does: 'key off, accessory, run, crank; engine running' },
    { keys: ['L'], does: 'what is live as a tree, as a table' },
    { keys: ['D', 'S', 'T'], does: 'what if it were dead, stuck, touching ground' },
  ],
  page: async () => (await import('./FeedPage')).FeedPage,
  place: ({ subject, place }) =>
    address(
      'feed',
      place?.part
        ? { part: place.part, list: place.list }
        : { part: 'live', key: place?.key ?? 'running', sel: subject },
    ),
};
