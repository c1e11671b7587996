/** A current as it is written: three figures, mA below 1. */
export function amps(a: number): string {
  if (a < 0.0005) {
    return '0 A';
  }
  return a < 0.1 ? `${(a * 1000).toPrecision(2)} mA` : `${a.toPrecision(3)} A`;
}
