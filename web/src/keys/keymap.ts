import { lettersAre, writesSign } from './letters';
import { isLive } from './live';

export interface KeyLine {
  keys: readonly string[];
  does: string;
  /** What they belong together with, where that is not the page they are of. */
  group?: string;
  /** The views of a job in which it does that, by the last part of their address; everywhere where none is named. */
  in?: readonly string[];
}

/** What the key is called that makes a chord. */
export const ctrlName = /Mac|iP(hone|ad)/.test(navigator.userAgent) ? '⌘' : 'Ctrl';

const everywhere = 'Everywhere in a job';

/**
 * What keys do on every page; what they do in a stage its index says. "?" shows the lines that hold on the page as it
 * is.
 */
const keymap: readonly KeyLine[] = [
  { group: 'In a list', keys: ['↑', '↓'], does: 'row up, row down' },
  { group: 'In a list', keys: ['Page Up', 'Page Down'], does: 'a page up, a page down' },
  { group: 'In a list', keys: ['Home', 'End'], does: 'the first row, the last' },
  { keys: ['W'], does: 'a step of our own beside this one', in: ['work'] },
  { group: 'In a drawing', keys: ['+', '-', '0'], does: 'the drawing: nearer, farther, the whole of it' },
  { keys: ['Space'], does: 'tick the step', in: ['work'] },
  { group: everywhere, keys: [`${ctrlName}+K`], does: 'go to anything by its words' },
  { group: everywhere, keys: ['B'], does: 'to the bench view' },
  { group: 'In a drawing', keys: ['V'], does: 'turn the connectors: wire side, mating face' },
  { keys: ['/'], does: 'find' },
  { group: everywhere, keys: ['U', `${ctrlName}+Z`], does: 'undo the last change' },
  { group: everywhere, keys: [`${ctrlName}+Shift+Z`], does: 'do again what was taken back' },
  { group: everywhere, keys: ['F'], does: 'findings' },
  { group: everywhere, keys: ['?'], does: 'these keys' },
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

/** Whether a key does anything as things are chosen. */
const works = (key: string) => lettersAre() !== 'off' || !writesSign(key);

/** A key as it is struck: with Alt, where that was chosen for keys that write a sign. */
export const struck = (key: string) => (lettersAre() === 'alt' && writesSign(key) ? `Alt+${key}` : key);

/**
 * The lines that hold in a view as it is now, by what they belong together with: something listens for each of their keys. The
 * page's own come first.
 */
export function keysHere(view: string, own: readonly KeyLine[]): Map<string, KeyLine[]> {
  const groups = new Map<string, KeyLine[]>();
  for (const l of [...own, ...keymap]) {
    const keys = l.keys.filter(works);
    if ((!l.in || l.in.includes(view)) && keys.length > 0 && l.keys.every(isLive)) {
      const group = l.group ?? 'On this page';
      groups.set(group, [...(groups.get(group) ?? []), { ...l, keys }]);
    }
  }
  return groups;
}
