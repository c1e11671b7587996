/** What was kept under a name; nothing where there is none, or it cannot be read. */
export function read(key: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null');
  } catch {
    return undefined; // what cannot be read is none
  }
}

/** Keeps a value over a reload. It is false where the browser has no room for it, or keeps nothing: it lives as long as the page. */
export function keep(key: string, value: unknown): boolean {
  try {
    localStorage.setItem(key, JSON.stringify(value));
    return true;
  } catch {
    return false; // the letter is sent all the same
  }
}

const orderKey = 'draxel-order';
let lastOrder = 0;

/** The next place in the order of all that this browser writes. */
export function nextOrder(): number {
  lastOrder = Math.max(lastOrder, Number(read(orderKey)) || 0) + 1;
  keep(orderKey, lastOrder);
  return lastOrder;
}
