import { address, type Stage } from '../../frame/stages';

export const feed: Stage = {
  name: 'feed',
  counts: 'findings about power, fuses and grounds',
  page: async () => (await import('./FeedPage')).FeedPage,
  place: ({ subject, place }) =>
    address(
      'feed',
      place?.part
        ? { part: place.part, list: place.list }
        : { part: 'live', key: place?.key ?? 'running', sel: subject },
    ),
};
