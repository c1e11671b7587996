import { isLive } from './live';

interface Line {
  keys: readonly string[];
  does: string;
  /** The views of a job in which it does that, by the last part of their address; everywhere where none is named. */
  in?: readonly string[];
}

/** The one keymap of the product: what each key does, and where. "?" shows the lines that hold on the page as it is. */
const keymap: readonly Line[] = [
  { keys: ['↑', '↓'], does: 'row up, row down' },
  { keys: ['Page Up', 'Page Down'], does: 'a page up, a page down' },
  { keys: ['Home', 'End'], does: 'the first row, the last' },
  { keys: ['Enter'], does: 'accept what is offered, or on to the next open row', in: ['match'] },
  { keys: ['X'], does: 'reject the candidate', in: ['match'] },
  { keys: ['←', '→'], does: 'the candidate before, the next candidate', in: ['match'] },
  { keys: ['C'], does: 'choose another cavity', in: ['match'] },
  { keys: ['G'], does: 'goes: not wanted any more', in: ['match', 'thin'] },
  { keys: ['N'], does: 'needs a source: then B battery, I ignition, G ground, S switch', in: ['match'] },
  { keys: ['E'], does: 'leave a To cavity empty, with the reason', in: ['match'] },
  { keys: ['J'], does: 'joins another wire; a lead from another wire', in: ['match'] },
  { keys: ['W'], does: 'another way for the wire; a new wire for a cavity', in: ['match'] },
  { keys: ['W'], does: 'a step of our own beside this one', in: ['work'] },
  { keys: ['R'], does: 'reopen: take the decision back', in: ['match', 'thin'] },
  { keys: ['A'], does: 'accept all above a certainty', in: ['match'] },
  { keys: ['K'], does: 'keep what is selected', in: ['thin'] },
  { keys: ['←', '→'], does: 'fold a system, unfold it', in: ['thin'] },
  { keys: ['1', '2', '3', '4', '5', '6'], does: 'its parts', in: ['reach'] },
  { keys: ['1', '2', '3', '4', '5'], does: 'its parts', in: ['feed', 'prove'] },
  { keys: ['1', '2', '3', '4'], does: 'its parts', in: ['thin', 'pin', 'handover'] },
  { keys: ['1', '2', '3'], does: 'its parts', in: ['join'] },
  { keys: ['+', '-', '0'], does: 'the drawing: nearer, farther, the whole of it' },
  { keys: ['Space'], does: 'tick the step', in: ['work', 'thin', 'pin', 'reach', 'feed', 'join'] },
  { keys: ['Space', 'Enter'], does: 'as planned', in: ['pin'] },
  { keys: ['X'], does: 'not as planned', in: ['pin'] },
  { keys: ['R'], does: 'take the answer back', in: ['pin'] },
  { keys: ['M'], does: 'type in the length that was measured', in: ['reach'] },
  { keys: ['M'], does: 'type in what the meter shows', in: ['prove'] },
  { keys: ['M'], does: 'move a circuit to another slot; Enter puts it down', in: ['feed'] },
  { keys: ['O', 'A', 'R', 'C', 'E'], does: 'key off, accessory, run, crank; engine running', in: ['feed'] },
  { keys: ['L'], does: 'what is live as a tree, as a table', in: ['feed'] },
  { keys: ['D', 'S', 'T'], does: 'what if it were dead, stuck, touching ground', in: ['feed'] },
  { keys: ['W', 'G', 'X', 'R'], does: 'wanted, given up, not fitted, reopen', in: ['join'] },
  { keys: ['←', '→'], does: 'the position of the key before, the next', in: ['join'] },
  { keys: ['['], does: 'this step before the one above it', in: ['pin'] },
  { keys: ['O'], does: 'it was done otherwise', in: ['pin'] },
  { keys: ['B'], does: 'to the bench view' },
  { keys: ['V'], does: 'turn the connectors: wire side, mating face' },
  { keys: ['/'], does: 'find' },
  { keys: ['U'], does: 'undo the last change' },
  { keys: ['F'], does: 'findings' },
  { keys: ['?'], does: 'these keys' },
];

const names: Record<string, string> = {
  up: '↑',
  down: '↓',
  left: '←',
  right: '→',
  pageup: 'Page Up',
  pagedown: 'Page Down',
  home: 'Home',
  end: 'End',
  enter: 'Enter',
  space: 'Space',
  escape: 'Esc',
};

/** What a key is called on the screen. */
export const nameOf = (key: string) => names[key] ?? key.toUpperCase();

/** The lines that hold in a view as it is now: something listens for each of their keys. */
export const keysHere = (view: string) =>
  keymap.filter((l) => (!l.in || l.in.includes(view)) && l.keys.every(isLive));
