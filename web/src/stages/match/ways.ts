import type { MatchView, Ref, WireWay } from '../../api/types.gen';
import { refKey } from '../../harness/cavity';

/** How a wire comes to its counterpart, as a sentence and as a word for the gutter. */
export const wayWord: Record<WireWay['way'], { word: string; says: string }> = {
  '': { word: '', says: '' },
  move: { word: 'moves', says: 'the terminal moves as it is' },
  renew: { word: 're-crimped', says: 'moves, with a new terminal crimped on' },
  'take-over': {
    word: 'takes over',
    says: 'the vehicle’s wire is cut off its old source and joined to ours',
  },
  tap: { word: 'taps', says: 'ours is joined onto the vehicle’s wire; nothing of it is cut' },
  into: { word: 'into the plug', says: 'the vehicle’s terminal is drawn, and ours goes into its cavity' },
  plugged: { word: 'plugged', says: 'the two cavities face each other already' },
  'new-wire': { word: 'new wire', says: 'a new wire, from a plug put onto the connector' },
};

/** How a connector of the To side can be met, in the order in which that is offered. */
export const metWords = [
  { met: 'kept', says: 'is a housing that is kept:' },
  { met: 'new', says: 'is a new housing, to be filled' },
  { met: 'stays', says: 'stays with its wires: they are joined' },
  { met: 'plugs', says: 'plugs straight onto:' },
  { met: 'ignored', says: 'is of no concern here' },
] as const;

export const wayOf = (view: MatchView, from: Ref | undefined): WireWay | undefined =>
  from && view.ways.find((w) => refKey(w.from) === refKey(from));

/** The way after this one, round the end to the beginning. */
export function nextWay(w: WireWay): WireWay['way'] {
  const at = w.choices.indexOf(w.way);
  return w.choices[(at + 1) % w.choices.length] ?? w.way;
}
