import type { Feeder } from '../../api/types.gen';

/** A thing as it is drawn: itself, or several that are alike, folded. */
export interface Drawn {
  key: string;
  /** Numbers of what it stands for: one, or all that are folded. */
  of: number[];
  parent: number;
  children: number[];
  depth: number;
  row: number;
}

/** What makes things alike: they hang on the same, are of one kind, live or dead alike, and nothing hangs on them. */
const likeness = (f: Feeder) => `${f.parent} ${f.kind} ${f.live} ${f.open ? 'open' : ''}`;

/** How many alike are folded into one. */
const fewest = 3;

/**
 * The feed tree as it is drawn, from the battery outward, a row for each that nothing hangs on. What is alike is folded
 * where it is not opened.
 */
export function layOut(tree: Feeder[], opened: ReadonlySet<string>): Drawn[] {
  const children: number[][] = tree.map(() => []);
  tree.forEach((f, i) => {
    if (f.parent >= 0) {
      children[f.parent]?.push(i);
    }
  });
  const out: Drawn[] = [];
  let row = 0;
  const draw = (i: number, parent: number, depth: number): number => {
    const f = tree[i];
    const at = out.length;
    const d: Drawn = { key: f?.id ?? String(i), of: [i], parent, children: [], depth, row: 0 };
    out.push(d);
    const groups = new Map<string, number[]>();
    for (const c of children[i] ?? []) {
      const child = tree[c];
      if (!child) {
        continue;
      }
      const dead = child.live !== 'live' || child.open;
      const alike =
        (children[c] ?? []).length === 0 || dead ? `${likeness(child)} ${dead ? 'dead' : ''}` : `alone ${c}`;
      groups.set(alike, [...(groups.get(alike) ?? []), c]);
    }
    const first = row;
    for (const [alike, members] of groups) {
      if (members.length < fewest || opened.has(alike)) {
        for (const c of members) {
          d.children.push(draw(c, at, depth + 1));
        }
        continue;
      }
      d.children.push(out.length);
      out.push({ key: alike, of: members, parent: at, children: [], depth: depth + 1, row: row++ });
    }
    d.row = d.children.length === 0 ? row++ : (first + row - 1) / 2;
    return at;
  };
  if (tree.length > 0) {
    draw(0, -1, 0);
  }
  return out;
}

/** The width of a band in px for so many A: it grows by the same with every doubling. */
export const band = (amps: number) => 1.2 + 3.1 * Math.log2(1 + Math.max(0, amps));

/** What a thing of the tree, or of its table, is. */
export type Thing = Feeder['kind'];

/** The same in words. */
export const kindWord: Record<Thing, string> = {
  source: 'source',
  fuse: 'fuse',
  switch: 'contact',
  key: 'contact of the key',
  relay: 'contact of a relay',
  output: 'output of a unit',
  unit: 'feed of a unit',
  load: 'load',
  lamp: 'lamp',
  wire: 'wire',
  cable: 'cable, strap',
  device: 'device',
};
