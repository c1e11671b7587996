import type { Band, MeterReading, ProvedLine } from '../../api/types.gen';

/** A measurement as it is asked for. */
export type Measure = Pick<MeterReading, 'id' | 'kind' | 'a' | 'b' | 'setup' | 'lamp' | 'jumper'>;

/** The same without anything else that a line has. */
export const bare = ({ id, kind, a, b, setup, lamp, jumper }: Measure): Measure => ({
  id,
  kind,
  a,
  b,
  setup,
  ...(lamp ? { lamp } : {}),
  ...(jumper ? { jumper } : {}),
});

const short = (x: number) =>
  (Math.abs(x) >= 100 ? x.toFixed(0) : Number(x.toFixed(Math.abs(x) >= 10 ? 1 : 2)).toString()).replace(
    '-',
    '−',
  );

/** A value with its unit, as a meter shows it. */
export function shown(kind: string, value: number, over?: boolean): string {
  if (kind === 'works') {
    return value ? 'works' : 'does not work';
  }
  if (over) {
    return 'OL';
  }
  return `${short(value)} ${kind === 'ohms' ? 'Ω' : 'V'}`;
}

/** Between what a reading has to lie, in words. */
export function bandWords(kind: string, band: Band): string {
  if (kind === 'works') {
    return shown(kind, band.least);
  }
  if (band.over) {
    return 'OL: nothing between the two';
  }
  const unit = kind === 'ohms' ? 'Ω' : 'V';
  return `${short(band.least)} to ${short(band.most)} ${unit}`;
}

export const readingWords = (r: MeterReading) => shown(r.kind, r.value, r.over);

/** How a line stands: a shape and a word. */
export function standingOf(l: ProvedLine): { mark: string; word: string } {
  if (l.waits && !l.reading) {
    return { mark: '┄', word: 'not built yet' };
  }
  if (!l.reading) {
    return { mark: '○', word: 'open' };
  }
  if (l.again) {
    return { mark: '↻', word: 'again' };
  }
  return l.fits ? { mark: '✓', word: 'in band' } : { mark: '✕', word: 'out of band' };
}

/** Reads what somebody typed: a number with a comma or a point, k and M behind it, OL for nothing. */
export function typed(text: string): { value: number; over: boolean } | undefined {
  const t = text.trim().toLowerCase().replace(',', '.');
  if (['ol', 'o.l', 'o.l.', '∞', 'open'].includes(t)) {
    return { value: 0, over: true };
  }
  const m = /^(-?\d+(?:\.\d+)?)\s*(k|m|meg)?\s*(ω|ohm|v)?$/.exec(t);
  if (!m?.[1]) {
    return undefined;
  }
  const factor = m[2] === 'k' ? 1e3 : m[2] ? 1e6 : 1;
  return { value: Number(m[1]) * factor, over: false };
}
