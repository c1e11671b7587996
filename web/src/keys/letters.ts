import { whoIsWorking } from '../api/client';

/** How keys that write one sign do what they do: as they are, with Alt, or not at all. */
export type Letters = 'plain' | 'alt' | 'off';

const place = () => `draxel-letters ${whoIsWorking()}`;

/** What whoever is working has chosen in this browser. */
export function lettersAre(): Letters {
  const said = localStorage.getItem(place());
  return said === 'alt' || said === 'off' ? said : 'plain';
}

/** Keeps what was chosen, and shows the names of keys on the page accordingly. */
export function chooseLetters(to: Letters) {
  localStorage.setItem(place(), to);
  markLetters();
}

/** Hides the names of keys where they do nothing. */
export function markLetters() {
  document.documentElement.classList.toggle('lettersoff', lettersAre() === 'off');
}

/** Whether a key writes one sign that can be seen. */
export const writesSign = (key: string) => key.length === 1 && key !== ' ';

/** Whether a key that writes a sign is meant for the page as things are chosen: with Alt, or without. */
export function meant(e: Pick<KeyboardEvent, 'key' | 'altKey'>): boolean {
  const how = lettersAre();
  return !writesSign(e.key) || (how === 'alt' ? e.altKey : how === 'plain' && !e.altKey);
}
