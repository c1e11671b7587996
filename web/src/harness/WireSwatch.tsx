import type { Colour } from '../api/types.gen';
import { colourName, paintOf } from './insulation';

interface Props {
  colour: Colour;
  /** The end at which the copper is bare. */
  bare: 'left' | 'right';
}

/** A piece of insulation: base, tracer as a stripe along it, copper at the end. A colour that was not read is hatched. */
export function WireSwatch({ colour, bare }: Props) {
  const [base, tracer, second] = colour.parts ?? [];
  const body = bare === 'right' ? 0 : 8;
  const known = base !== undefined;
  return (
    <svg
      width="48"
      height="14"
      aria-label={colourName(colour) || 'no colour given'}
      role="img"
      style={{ flex: 'none' }}
    >
      <rect x={bare === 'right' ? 38 : 0} y="5.5" width="10" height="3" fill="var(--copper)" />
      <rect
        x={body + 0.5}
        y="1.5"
        width="39"
        height="11"
        rx="2"
        fill={paintOf(base) ?? 'var(--page)'}
        stroke="var(--quiet)"
        strokeDasharray={known ? undefined : '2 2'}
        strokeWidth="0.8"
      />
      {tracer && (
        <rect x={body + 1} y={second ? 4 : 5} width="38" height={second ? 2.4 : 4} fill={paintOf(tracer)} />
      )}
      {second && <rect x={body + 1} y="7.6" width="38" height="2.4" fill={paintOf(second)} />}
    </svg>
  );
}
