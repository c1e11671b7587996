import type { KeyboardEvent } from 'react';

/**
 * For a field whose Enter closes its dialog: the focus goes back to the button that opened it while the key is still
 * down, and the browser would press that button too.
 */
export const onEnter = (act: () => void) => (e: KeyboardEvent) => {
  e.preventDefault();
  act();
};
