const counts = new Map<string, number>();

/** Notes that the page listens for keys, by their names, until what it gives back is called. */
export function listen(names: readonly string[]): () => void {
  names.forEach((n) => counts.set(n, (counts.get(n) ?? 0) + 1));
  return () => names.forEach((n) => counts.set(n, (counts.get(n) ?? 0) - 1));
}

/** Whether something on the page listens for a key now. */
export const isLive = (name: string) => (counts.get(name) ?? 0) > 0;
