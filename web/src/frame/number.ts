/** The number that a text is, with a point or a comma; nothing where there is no text, NaN where it is no number. */
export function numberOf(text: string): number | undefined {
  const t = text.trim().replace(',', '.');
  return t === '' ? undefined : Number(t);
}

/** The number that a text is, or nothing where it is none. */
export function finiteOf(text: string): number | undefined {
  const n = numberOf(text);
  return Number.isFinite(n) ? n : undefined;
}

/** What a number may be, in words. */
export function allowed(min: number | undefined, max: number | undefined): string {
  if (min !== undefined && max !== undefined) {
    return `${min} to ${max}`;
  }
  return min !== undefined ? `${min} or more` : max !== undefined ? `at most ${max}` : 'a number';
}
