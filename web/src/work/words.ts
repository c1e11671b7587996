import type { WorkKind, WorkStage, WorkStep } from '../api/types.gen';

type Stage = 'gather' | 'match' | 'prove' | 'handover' | Exclude<WorkStage, ''>;

/** The word for each stage, the same everywhere; `own` are steps of one's own. */
const stages: Record<Stage, string> = {
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

/** What each kind of step is, in a word or two. */
const kinds: Record<WorkKind, string> = {
  caution: 'caution',
  gate: 'gate',
  measure: 'measure',
  cut: 'cut',
  join: 'join',
  seal: 'seal',
  mend: 'mend',
  out: 'goes',
  // Thin
  tie: 'tie',
  trim: 'trim legs',
  through: 'one wire',
  remove: 'take apart',
  rejoin: 'join',
  'take-off': 'take off',
  nicks: 'nicks',
  // Pin
  move: 'move',
  pull: 'pull, waits',
  seat: 'seat',
  hold: 'hold',
  new: 'new terminal',
  drop: 'take out',
  plug: 'plug',
  unplug: 'unplug',
  close: 'lock home',
  otherwise: 'otherwise',
  // Reach
  route: 'lay',
  wait: 'wait',
  part: 'plug on its way',
  cover: 'cover',
  // Feed
  mount: 'mount',
  relay: 'relay',
  fuse: 'fuse',
  change: 'other fuse',
  // Join
  land: 'bring to',
  apart: 'take apart',
  away: 'take away',
  bring: 'bring in',
  fit: 'fit',
  own: 'own step',
};

/** Where a stage means more by a word than the others. */
const inStage: Partial<Record<`${Stage} ${WorkKind}`, string>> = {
  'thin seal': 'cut, seal',
  'thin out': 'falls out',
  'join measure': 'measure first',
  'join cut': 'cut off',
  'join mend': 'make whole',
};

/** What a step is, in a word or two. */
export const kindWord = (s: Pick<WorkStep, 'stage' | 'kind'>) =>
  (s.stage && inStage[`${s.stage} ${s.kind}`]) || kinds[s.kind];

/** A stage by its name, as the rail has it; another place, such as the front page, by its own. */
export const stageName = (stage: string) =>
  stage in stages ? stages[stage as Stage] : stage.charAt(0).toUpperCase() + stage.slice(1);
