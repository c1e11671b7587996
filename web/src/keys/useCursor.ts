import { useKey } from './useKey';

const page = 12; // rows of a step by page

/** A cursor in a list, moved by the keys that every list has: row by row, a page at a time, to either end. */
export function useCursor(at: number, count: number, go: (to: number) => void, enabled = true) {
  const to = (i: number) => () => {
    if (count > 0) {
      go(Math.max(0, Math.min(count - 1, i)));
    }
  };
  useKey('down', to(at + 1), { enabled });
  useKey('up', to(at - 1), { enabled });
  useKey('pagedown', to(at + page), { enabled });
  useKey('pageup', to(at - page), { enabled });
  useKey('home', to(0), { enabled });
  useKey('end', to(count - 1), { enabled });
}
