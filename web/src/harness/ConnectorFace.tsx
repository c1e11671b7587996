import type { Colour, FaceDrawing } from '../api/types.gen';
import { refName } from './cavity';
import { paintOf } from './insulation';

export type View = 'wire' | 'mating';

/** What is in a cavity: the colour of its wire, or a plug. */
export type Contents = ReadonlyMap<string, Colour | 'plug'>;

interface Props {
  connector: string;
  drawing: FaceDrawing;
  contents: Contents;
  /** The cavity that is lit: where a terminal goes in; and the one beside it, which it leaves. */
  lit?: string;
  beside?: string;
  /** The room that the drawing may take, in px. */
  width: number;
  height?: number;
  onPick?: (cavity: string) => void;
}

const margin = 30; // px beside the housing, for the names that stand outside it
const above = 22; // px over the lock and under the keys, for the names of the lit cavities

/**
 * A connector's face as the core has drawn it: the lock and the keys at its edge, each filled cavity with its wire's colour,
 * the lit cavities named outside the housing so that a name covers nothing. Where cavities are large enough each has its
 * name in it; where they are not, each row has its first and last name at its ends.
 */
export function ConnectorFace({ connector, drawing, contents, lit, beside, width, height, onPick }: Props) {
  const edges = [drawing.lock, ...drawing.keys];
  const over = Math.max(0, ...edges.map((b) => -b.y)); // how far lock and keys stand out at the top
  const under = Math.max(0, ...edges.map((b) => b.y + b.h - drawing.h));
  const scale = Math.min(
    (width - 2 * margin) / drawing.w,
    height ? (height - 2 * above) / (drawing.h + over + under) : Infinity,
    46,
  );
  const top = above + over * scale;
  const w = drawing.w * scale + 2 * margin;
  const h = top + (drawing.h + under) * scale + above;
  const px = (v: number) => margin + v * scale;
  const py = (v: number) => top + v * scale;
  const cell = Math.min(...drawing.cells.map((c) => c.w)) * scale;
  const flags = flagged(drawing, [lit, beside], flagRoom / scale);
  const named = cell >= 34 || (cell >= 22 && contents.size === 0); // where wires are not shown a name needs less room
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      style={{ width: w, maxWidth: '100%', height: 'auto', display: 'block', margin: '0 auto' }}
      role="img"
      aria-label={`connector ${connector}, ${drawing.words}`}
    >
      {edges.map((b, i) => (
        <rect
          key={i}
          x={px(b.x)}
          y={py(b.y)}
          width={b.w * scale}
          height={b.h * scale}
          fill={i === 0 ? 'none' : 'var(--hairline)'}
          stroke="var(--ink)"
        />
      ))}
      <rect
        x={margin}
        y={top}
        width={drawing.w * scale}
        height={drawing.h * scale}
        fill="var(--page)"
        stroke="var(--ink)"
        strokeWidth="1.3"
      />
      {!named && <RowEnds drawing={drawing} px={px} py={py} scale={scale} />}
      {drawing.cells.map((c) => (
        <Cavity
          key={c.name}
          name={c.name}
          x={px(c.x)}
          y={py(c.y)}
          size={c.w * scale}
          wire={contents.get(c.name)}
          mark={c.name === lit ? 'lit' : c.name === beside ? 'beside' : undefined}
          named={named}
          onPick={onPick}
        />
      ))}
      {flags.map((f) => (
        <Flag
          key={f.cell.name}
          text={refName({ connector, cavity: f.cell.name })}
          x={px(f.cell.x + f.cell.w / 2)}
          near={f.below ? py(f.cell.y + f.cell.h) : py(f.cell.y)}
          edge={f.below ? py(drawing.h + under) : above}
          below={f.below}
          dashed={f.cell.name === beside}
        />
      ))}
    </svg>
  );
}

interface RowEndsProps {
  drawing: FaceDrawing;
  px: (v: number) => number;
  py: (v: number) => number;
  scale: number;
}

function RowEnds({ drawing, px, py, scale }: RowEndsProps) {
  let at = 0;
  return drawing.rows.map((n, r) => {
    const first = drawing.cells[at];
    const last = drawing.cells[at + n - 1];
    at += n;
    return (
      first &&
      last && (
        <g key={r} className="mono" fontSize="12" fill="var(--quiet)">
          <text x={px(0) - 5} y={py(first.y) + (first.h * scale) / 2 + 4} textAnchor="end">
            {first.name}
          </text>
          <text x={px(drawing.w) + 5} y={py(last.y) + (last.h * scale) / 2 + 4}>
            {last.name}
          </text>
        </g>
      )
    );
  });
}

interface CavityProps {
  name: string;
  x: number;
  y: number;
  size: number;
  wire: Colour | 'plug' | undefined;
  mark: 'lit' | 'beside' | undefined;
  named: boolean;
  onPick: ((cavity: string) => void) | undefined;
}

function Cavity({ name, x, y, size, wire, mark, named, onPick }: CavityProps) {
  const middle = x + size / 2;
  const seat = named ? y + size * 0.38 : y + size / 2;
  const r = named ? size * 0.23 : size * 0.28;
  const colour = wire !== 'plug' ? wire : undefined;
  const tracer = colour?.parts?.[1];
  return (
    <g onClick={() => onPick?.(name)} style={{ cursor: onPick ? 'pointer' : undefined }}>
      <title>{name}</title>
      <rect
        x={x + 1}
        y={y + 1}
        width={size - 2}
        height={size - 2}
        rx="2"
        fill={mark ? 'var(--selected)' : 'var(--page)'}
        stroke={mark ? 'var(--petrol)' : 'var(--hairline)'}
        strokeWidth={mark ? 2.4 : 1}
        strokeDasharray={mark === 'beside' ? '4 2.5' : undefined}
      />
      {colour && (
        <circle
          cx={middle}
          cy={seat}
          r={r}
          fill={paintOf(colour.parts?.[0]) ?? 'var(--faint)'}
          stroke="var(--quiet)"
          strokeWidth="0.8"
        />
      )}
      {tracer && (
        <rect x={middle - r} y={seat - r * 0.28} width={2 * r} height={r * 0.56} fill={paintOf(tracer)} />
      )}
      {wire === 'plug' && (
        <path
          d={`M${middle - r} ${seat - r}L${middle + r} ${seat + r}M${middle - r} ${seat + r}L${middle + r} ${seat - r}`}
          stroke="var(--quiet)"
        />
      )}
      {named && (
        <text
          x={middle}
          y={wire ? y + size - 5 : y + size / 2 + 4}
          textAnchor="middle"
          fontSize="12"
          fontWeight={mark ? 700 : 400}
          fill={mark ? 'var(--petrol)' : 'var(--quiet)'}
          className="mono"
        >
          {name}
        </text>
      )}
    </g>
  );
}

const flagRoom = 54; // px that the name of a cavity takes beside another

/**
 * The lit cavities, each with the edge at which its name stands: the nearer one, so that the line to it crosses few others.
 * Two that would stand at one edge and too close keep apart: the one farther from it goes to the other.
 */
function flagged(drawing: FaceDrawing, names: (string | undefined)[], room: number) {
  const flags = names.flatMap((name) => {
    const cell = drawing.cells.find((c) => c.name === name);
    return cell ? [{ cell, below: cell.y + cell.h / 2 > drawing.h / 2 }] : [];
  });
  const [a, b] = flags;
  if (a && b && a.below === b.below && Math.abs(a.cell.x - b.cell.x) < room) {
    const far = a.cell.y > b.cell.y === a.below ? b : a;
    far.below = !far.below;
  }
  return flags;
}

interface FlagProps {
  text: string;
  x: number;
  /** Where the cavity ends, and where the housing does, on the side of the name. */
  near: number;
  edge: number;
  below: boolean;
  dashed: boolean;
}

/** The name of a lit cavity, outside the housing, with a line to it; dashed for the one that is left. */
function Flag({ text, x, near, edge, below, dashed }: FlagProps) {
  return (
    <>
      <line
        x1={x}
        x2={x}
        y1={near + (below ? -1 : 1)}
        y2={edge + (below ? 5 : -4)}
        stroke="var(--petrol)"
        strokeWidth="1.4"
        strokeDasharray={dashed ? '4 2.5' : undefined}
      />
      <text
        x={x}
        y={edge + (below ? 18 : -8)}
        textAnchor="middle"
        fontSize="14"
        fontWeight="700"
        fill="var(--petrol)"
        className="mono"
      >
        {text}
      </text>
    </>
  );
}
