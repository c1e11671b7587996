import type { WorkStep } from '../api/types.gen';

/** The word for each stage, the same everywhere; `own` are steps of one's own. */
export const stageWord: Record<string, string> = {
  gather: 'Gather',
  match: 'Match',
  thin: 'Thin',
  pin: 'Pin',
  reach: 'Reach',
  feed: 'Feed',
  join: 'Join',
  own: 'Own',
  prove: 'Prove',
  handover: 'Hand over',
};

const words: Record<string, string> = {
  'thin tie': 'tie',
  'thin trim': 'trim legs',
  'thin through': 'one wire',
  'thin remove': 'take apart',
  'thin rejoin': 'join',
  'thin seal': 'cut, seal',
  'thin take-off': 'take off',
  'thin out': 'falls out',
  'pin pull': 'pull, waits',
  'pin out': 'goes',
  'pin new': 'new terminal',
  'pin drop': 'take out',
  'pin close': 'lock home',
  'reach route': 'lay',
  'reach part': 'plug on its way',
  'feed mount': 'mount',
  'feed relay': 'relay',
  'feed fuse': 'fuse',
  'feed change': 'other fuse',
  'join measure': 'measure first',
  'join cut': 'cut off',
  'join land': 'bring to',
  'join apart': 'take apart',
  'join mend': 'make whole',
  'join away': 'take away',
  'join bring': 'bring in',
  'join fit': 'fit',
  'own own': 'own step',
};

/** What a step is, in a word or two. */
export const kindWord = (s: WorkStep) => words[`${s.stage ?? ''} ${s.kind}`] ?? s.kind;

export const day = (ms: number) => new Date(ms).toISOString().slice(0, 10);

/** A stage by its name, as the rail has it. */
export const stageName = (stage: string) =>
  stageWord[stage] ?? stage.charAt(0).toUpperCase() + stage.slice(1);
