import type { LiveLine } from '../api/types.gen';

/** How a wire, a point or a device stands, and what it is in words: the same wherever it is said. */
export type Alive = LiveLine['live'];

export const liveWord: Record<Alive, string> = {
  live: 'live',
  dead: 'dead',
  floating: 'floating',
  back: 'fed back',
  works: 'works',
  stands: 'stands',
};

/** The same in a sentence, for who asks what the word means. */
export const liveMeaning: Record<Alive, string> = {
  live: 'A source reaches it by copper and closed contacts.',
  dead: 'It has less than a volt.',
  floating: 'It is joined to nothing that has any volts, nor to ground.',
  back: 'It is live only through something that uses current.',
  works: 'It has what it needs to do its work.',
  stands: 'It does not do its work.',
};
