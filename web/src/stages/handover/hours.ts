/** Minutes as hours; nothing where there are none. */
export const hours = (minutes: number) => (minutes > 0 ? `${(minutes / 60).toFixed(1)} h` : '');

/** What time can be noted for, by its word in the addresses. */
export const stageWords: Record<string, string> = {
  gather: 'Gather',
  match: 'Match',
  thin: 'Thin',
  pin: 'Pin',
  reach: 'Reach',
  feed: 'Feed',
  join: 'Join',
  own: 'Own steps',
  prove: 'Prove',
  handover: 'Hand over',
};
