import { useEffect } from 'react';
import { useHotkeys, type HotkeyCallback } from 'react-hotkeys-hook';
import { ctrlName, nameOf } from './keymap';
import { lettersAre, meant, writesSign } from './letters';
import { listen } from './live';

/** Whether a dialog or a drawer lies over the page. */
const covered = () =>
  [...document.querySelectorAll('[role=dialog]')].some(
    (d) => d instanceof HTMLElement && d.checkVisibility(),
  );

/**
 * Whether a key is meant for something else: a shortcut of the browser's, or Shift with a letter or a named key. Shift that
 * the layout needs to write a sign or a digit is part of it, and so is the key at the right of the space bar.
 */
const foreign = (e: KeyboardEvent) => {
  const third = e.getModifierState('AltGraph');
  if (!third && writesSign(e.key)) {
    return !meant(e) || e.ctrlKey || e.metaKey || (e.shiftKey && e.key.toLowerCase() !== e.key.toUpperCase());
  }
  if (third && lettersAre() === 'off') {
    return true;
  }
  const named = e.key.length > 1 || e.key === ' ' || e.key.toLowerCase() !== e.key.toUpperCase();
  return e.metaKey || (!third && (e.ctrlKey || e.altKey)) || (e.shiftKey && named);
};

interface Options {
  enabled?: boolean;
  preventDefault?: boolean;
}

/**
 * A key of the page, by what it writes and not by its place, so that it is where its letter is on every keyboard: "g", "?",
 * "up,down", "1,2,3". It is dead while something lies over the page: nobody decides what they cannot see. What is listened
 * for is what the list of keys shows.
 */
export function useKey(keys: string, act: HotkeyCallback, options: Options = {}) {
  const { enabled = true, preventDefault = true } = options;
  const all = keys.split(',');
  const written = all.filter((k) => k !== 'space').join(',');
  const how = {
    preventDefault,
    ignoreModifiers: true,
    splitKey: '§', // one key at a time: a plus is a key
    ignoreEventWhen: (e: KeyboardEvent) => covered() || foreign(e),
  };
  useHotkeys(written || 'enter', act, { ...how, useKey: true, enabled: enabled && written !== '' });
  useHotkeys('space', act, { ...how, enabled: enabled && all.includes('space') }); // it writes nothing that can be named
  useEffect(() => (enabled ? listen(keys.split(',').map(nameOf)) : undefined), [keys, enabled]);
}

/** What a chord is called on the screen: "mod+shift+z" is Ctrl+Shift+Z. */
const chordName = (chord: string) =>
  chord
    .split('+')
    .map((k) => (k === 'mod' ? ctrlName : k.charAt(0).toUpperCase() + k.slice(1)))
    .join('+');

/**
 * A key with Ctrl, or ⌘: "mod+z". In a field it is the field's own, and it is dead while something lies over the page. The
 * list of keys has it under what Ctrl calls it.
 */
export function useChord(chords: string, act: HotkeyCallback) {
  useHotkeys(chords, act, { useKey: true, preventDefault: true, ignoreEventWhen: covered });
  useEffect(() => listen(chords.split(',').map(chordName)), [chords]);
}
