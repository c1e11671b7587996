import type { Colour, Connector } from '../api/types.gen';
import { refName } from './cavity';
import { paintOf } from './insulation';

export type View = 'wire' | 'mating';

/** The cavity names row by row as seen in the view; the core's Connector.Face does the same for the print. */
export function faceRows(c: Connector, view: View): string[][] {
  const rows = Math.max(1, Math.min(c.rows, c.cavities.length));
  const face: string[][] = [];
  let at = 0;
  for (let r = 0; r < rows; r++) {
    const n = Math.floor((c.cavities.length - at + rows - r - 1) / (rows - r));
    const row = c.cavities.slice(at, at + n);
    at += n;
    face.push((c.first === 'top-right') !== (view === 'mating') ? row.reverse() : row);
  }
  return face;
}

interface Props {
  connector: Connector;
  view: View;
  colours: ReadonlyMap<string, Colour>;
  /** The cavity that is lit, and one that is lit beside it. */
  lit?: string;
  beside?: string;
  width: number;
  onPick?: (cavity: string) => void;
}

/**
 * A connector's face in its row layout: the lock at the top, each filled cavity with its wire's colour, the names at the
 * ends of each row, and the lit cavity named outside the housing so that the name covers nothing.
 */
export function ConnectorFace({ connector, view, colours, lit, beside, width, onPick }: Props) {
  const face = faceRows(connector, view);
  const columns = Math.max(...face.map((r) => r.length));
  const cell = Math.min(22, (width - 60) / columns);
  const body = columns * cell + 8;
  const left = (width - body) / 2;
  const top = 26;
  const height = top + face.length * cell + 12;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width, maxWidth: '100%', height: 'auto', display: 'block', margin: '0 auto' }}
      role="img"
      aria-label={`connector ${connector.name}, ${view === 'wire' ? 'wire side' : 'mating face'}`}
    >
      <rect x={width / 2 - 24} y={top - 7} width="48" height="8" fill="none" stroke="var(--ink)" />
      <rect
        x={left}
        y={top}
        width={body}
        height={face.length * cell + 8}
        fill="var(--page)"
        stroke="var(--ink)"
        strokeWidth="1.3"
      />
      {face.map((row, r) => {
        const start = left + 4 + ((columns - row.length) * cell) / 2;
        const y = top + 4 + r * cell;
        return (
          <g key={r}>
            <text
              x={left - 5}
              y={y + cell / 2 + 4}
              textAnchor="end"
              fontSize="12"
              fill="var(--quiet)"
              className="mono"
            >
              {row[0]}
            </text>
            <text x={left + body + 5} y={y + cell / 2 + 4} fontSize="12" fill="var(--quiet)" className="mono">
              {row.at(-1)}
            </text>
            {row.map((name, i) => {
              const x = start + i * cell;
              const wire = colours.get(name);
              const on = name === lit || name === beside;
              return (
                <g
                  key={name}
                  onClick={() => onPick?.(name)}
                  style={{ cursor: onPick ? 'pointer' : undefined }}
                >
                  <title>{name}</title>
                  <rect
                    x={x + 1}
                    y={y + 1}
                    width={cell - 2}
                    height={cell - 2}
                    rx="2"
                    fill={on ? 'var(--selected)' : 'var(--page)'}
                    stroke={on ? 'var(--petrol)' : 'var(--hairline)'}
                    strokeWidth={on ? 2.4 : 1}
                    strokeDasharray={name === beside && name !== lit ? '3 2' : undefined}
                  />
                  {wire && (
                    <circle
                      cx={x + cell / 2}
                      cy={y + cell / 2}
                      r={cell * 0.27}
                      fill={paintOf(wire.parts?.[0]) ?? 'var(--faint)'}
                      stroke="var(--quiet)"
                      strokeWidth="0.8"
                    />
                  )}
                  {name === lit && (
                    <>
                      <line
                        x1={x + cell / 2}
                        x2={x + cell / 2}
                        y1={top - 8}
                        y2={y + 1}
                        stroke="var(--petrol)"
                        strokeWidth="1.4"
                      />
                      <text
                        x={x + cell / 2}
                        y={top - 12}
                        textAnchor="middle"
                        fontSize="13"
                        fontWeight="700"
                        fill="var(--petrol)"
                        className="mono"
                      >
                        {refName({ connector: connector.id, cavity: name })}
                      </text>
                    </>
                  )}
                </g>
              );
            })}
          </g>
        );
      })}
    </svg>
  );
}
