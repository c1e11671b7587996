import { isLive } from './live';

export interface KeyLine {
  keys: readonly string[];
  does: string;
  /** The views of a job in which it does that, by the last part of their address; everywhere where none is named. */
  in?: readonly string[];
}

/** What the key is called that makes a chord. */
export const ctrlName = /Mac|iP(hone|ad)/.test(navigator.userAgent) ? '⌘' : 'Ctrl';

/**
 * What keys do on every page; what they do in a stage its index says. "?" shows the lines that hold on the page as it
 * is.
 */
const keymap: readonly KeyLine[] = [
  { keys: ['↑', '↓'], does: 'row up, row down' },
  { keys: ['Page Up', 'Page Down'], does: 'a page up, a page down' },
  { keys: ['Home', 'End'], does: 'the first row, the last' },
  { keys: ['W'], does: 'a step of our own beside this one', in: ['work'] },
  { keys: ['+', '-', '0'], does: 'the drawing: nearer, farther, the whole of it' },
  { keys: ['Space'], does: 'tick the step', in: ['work'] },
  { keys: ['B'], does: 'to the bench view' },
  { keys: ['V'], does: 'turn the connectors: wire side, mating face' },
  { keys: ['/'], does: 'find' },
  { keys: ['U', `${ctrlName}+Z`], does: 'undo the last change' },
  { keys: [`${ctrlName}+Shift+Z`], does: 'do again what was taken back' },
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
export const keysHere = (view: string, own: readonly KeyLine[]) =>
  [...own, ...keymap].filter((l) => (!l.in || l.in.includes(view)) && l.keys.every(isLive));
