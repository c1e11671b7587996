import { useHotkeys, type HotkeyCallback, type Options } from 'react-hotkeys-hook';

/** Whether a dialog or a drawer lies over the page. */
const covered = () =>
  [...document.querySelectorAll('[role=dialog]')].some(
    (d) => d instanceof HTMLElement && d.checkVisibility(),
  );

/** A key of the page. It is dead while something lies over the page: nobody decides what they cannot see. */
export const useKey = (keys: string, act: HotkeyCallback, options?: Options) =>
  useHotkeys(keys, act, { preventDefault: true, ignoreEventWhen: covered, ...options });
