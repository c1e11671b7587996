import type { Block, BlockSlot, Circuit, FeedView, Protected } from '../../api/types.gen';
import { refName } from '../../harness/cavity';

/** What can be chosen in the drawing of a block. */
export type Chosen =
  | { kind: 'group'; name: string }
  | { kind: 'slot'; name: string }
  | { kind: 'relay'; name: string }
  | { kind: 'circuit'; circuit: Circuit };

export const keyOf = (c: Chosen) =>
  c.kind === 'circuit' ? `circuit ${c.circuit.side} ${refName(c.circuit.at)}` : `${c.kind} ${c.name}`;

/** The circuits that begin at a cavity of the block. */
export const circuitsAt = (view: FeedView, cavity: string) => view.circuits.filter((c) => c.slot === cavity);

export const trayOf = (view: FeedView) => view.circuits.filter((c) => !c.slot);

export const fuseOf = (view: FeedView, block: Block, slot: string): Protected | undefined =>
  view.fuses.find((f) => f.fuse === refName({ connector: block.id, cavity: slot }));

export const mainOf = (view: FeedView, block: Block, group: string): Protected | undefined =>
  view.fuses.find((f) => f.fuse === `${block.id} main ${group}`);

/** What the lid says of a slot: what a person wrote, else what it feeds; a spare says so. */
export function lidOf(view: FeedView, slot: BlockSlot): string {
  if (slot.for) {
    return slot.for;
  }
  const feeds = circuitsAt(view, slot.name).map((c) => c.text);
  return feeds.length > 0 ? feeds.join(', ') : 'spare';
}

/** The bands of the drawing: what is chosen by arrows, row by row. */
export function bandsOf(view: FeedView, block: Block): Chosen[][] {
  const bands: Chosen[][] = block.groups.map((g) => [
    { kind: 'group', name: g.name },
    ...block.slots.filter((s) => s.group === g.name).map((s): Chosen => ({ kind: 'slot', name: s.name })),
    ...block.relays
      .filter((r) => groupOfRelay(block, r.from) === g.name)
      .map((r): Chosen => ({ kind: 'relay', name: r.name })),
  ]);
  const tray = trayOf(view);
  return tray.length > 0 ? [...bands, tray.map((circuit): Chosen => ({ kind: 'circuit', circuit }))] : bands;
}

const groupOfRelay = (block: Block, from: string) =>
  block.groups.some((g) => g.name === from)
    ? from
    : block.slots.find((s) => `slot ${s.name}` === from)?.group;

/** The first number that no slot has. */
export function nextSlot(block: Block): string {
  let n = block.slots.length + 1;
  while (block.slots.some((s) => s.name === String(n))) {
    n++;
  }
  return String(n);
}

export function nextRelay(block: Block): string {
  let n = block.relays.length + 1;
  while (block.relays.some((r) => r.name === `R${n}`)) {
    n++;
  }
  return `R${n}`;
}

/** The ratings of blade fuses and of bolted ones, in A. */
export const ratings = [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40, 50, 60, 70, 80, 100, 125, 150, 200];
