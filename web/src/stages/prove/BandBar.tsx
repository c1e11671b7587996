import type { Band, MeterReading } from '../../api/types.gen';
import { bandWords, shown } from './words';

const wide = 240;

/** The band in which a reading has to lie, with the mark where it fell: below, in or above it. */
export function BandBar({ kind, band, reading }: { kind: string; band: Band; reading?: MeterReading }) {
  const span = Math.max(band.most - band.least, 0.02);
  const from = Math.min(band.least, reading && !reading.over ? reading.value : band.least) - span * 0.4;
  const to = Math.max(band.most, reading && !reading.over ? reading.value : band.most) + span * 0.4;
  const x = (v: number) => Math.max(4, Math.min(wide - 4, ((v - from) / (to - from)) * wide));
  const label = `${bandWords(kind, band)}${reading ? `, read ${shown(kind, reading.value, reading.over)}` : ''}`;
  return (
    <svg width={wide} height="34" role="img" aria-label={label} className="bandbar">
      <path d={`M0 17H${wide}`} className="axis" />
      {band.over ? (
        <rect x={wide - 26} y="9" width="22" height="16" className="band" />
      ) : (
        <rect
          x={x(band.least)}
          y="9"
          width={Math.max(3, x(band.most) - x(band.least))}
          height="16"
          className="band"
        />
      )}
      {reading && (
        <path
          d={`M${reading.over ? wide - 14 : band.over ? 30 : x(reading.value)} 3v28m-5-5l5 5 5-5`}
          className="mark"
        />
      )}
    </svg>
  );
}
