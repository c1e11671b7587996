import type { CutLine, ReachJoint, ReachWire, Thing } from '../../api/types.gen';
import { refName } from '../../harness/cavity';

export const mm = (x: number | undefined) => (x ? `${Math.round(x)} mm` : '');
export const metres = (x: number) => `${(x / 1000).toFixed(1)} m`;
export const across = (x: number) => `${x.toFixed(1)} mm`;

/** What becomes of a wire for its length, as a sentence would have it. */
export const verdictWord: Record<CutLine['verdict'], string> = {
  reaches: 'reaches',
  trim: 'too long by',
  extend: 'extend by',
  replace: 'replace',
  new: 'new wire',
  measure: 'measure',
  'no way': 'no way',
  'no place': 'no place',
  'no end': 'no end',
};

export const schoolWord: Record<ReachJoint['school'], string> = {
  solder: 'solder, adhesive shrink',
  crimp: 'crimp in a sealed sleeve',
  bare: 'bare crimp, adhesive shrink',
  '': 'as the job does it',
};

export const thingKey = (t: Thing) => `${t.kind}/${t.id}`;
export const thingName = (t: Thing) => (t.kind === 'device' ? t.id : `${t.kind} ${t.id}`);

/** Where an end of a wire goes, in a word. */
export function endName(w: ReachWire, end: 0 | 1): string {
  const lands = w.lands[end];
  if (lands.connector) {
    return refName(lands);
  }
  const e = w.ends[end];
  if (e.at) {
    return refName(e.at);
  }
  return e.splice ? `splice ${e.splice}` : e.taped ? 'taped off' : '?';
}

/** The first few names of many. */
export const few = (all: readonly string[]) =>
  all.length > 5 ? `${all.slice(0, 5).join(' ')} and ${all.length - 5} more` : all.join(' ');

/** A chance as people say it. */
export const chance = (p: number | undefined) =>
  p === undefined || p < 0.0005 ? '' : `${(100 * p).toFixed(p < 0.1 ? 1 : 0)} %`;
