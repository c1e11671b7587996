import { useRef, useState, type PointerEvent } from 'react';
import type { Bundle, RouteMap, RoutePath, Station } from '../../api/types.gen';
import { mm } from './words';

export type Spot = { on: 'station' | 'path'; id: string };

interface Props {
  map: RouteMap;
  bundles: readonly Bundle[];
  /** Paths and stations of the wire that is looked at. */
  lit?: ReadonlySet<string>;
  selected: Spot | undefined;
  things: ReadonlyMap<string, number>;
  onSelect: (s: Spot) => void;
  onMove?: (station: string, x: number, y: number) => void;
}

/** A station in hand, mm. */
interface Held {
  id: string;
  x: number;
  y: number;
  moved: boolean;
}

const room = { left: 330, right: 400, top: 260, bottom: 330 };
/** The box that a drawing usually has, in px: letters are as large on any map. */
const box = { width: 868, height: 600 };

/** The vehicle as stations and paths, seen from above, nose to the left. Paths are as thick as their bundles, and say what lies along them. */
export function RouteDrawing({ map, bundles, lit, selected, things, onSelect, onMove }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, show] = useState<Held | undefined>();
  const grip = useRef<Held | undefined>(undefined); // what is held now: letting go may come before the move is drawn
  const hold = (h: Held | undefined) => {
    grip.current = h;
    show(h);
  };
  const stations = map.stations.map((s) => (held?.id === s.id ? { ...s, x: held.x, y: held.y } : s));
  const at = new Map(stations.map((s) => [s.id, s]));
  const of = new Map(bundles.map((b) => [b.path, b]));
  const xs = map.stations.map((s) => s.x);
  const ys = map.stations.map((s) => s.y);
  const left = Math.min(...xs) - room.left;
  const top = Math.min(...ys) - room.top;
  const width = Math.max(...xs) - left + room.right;
  const height = Math.max(...ys) - top + room.bottom;
  const px = Math.max(width / box.width, height / box.height); // mm of the drawing in a px of the screen
  const place = (e: PointerEvent) => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    return matrix ? new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix) : undefined;
  };
  const move = (e: PointerEvent) => {
    const h = grip.current;
    const p = h && e.buttons > 0 ? place(e) : undefined;
    if (h && p && onMove) {
      const moved = h.moved || Math.hypot(p.x - h.x, p.y - h.y) > 15;
      hold(moved ? { id: h.id, x: Math.round(p.x / 10) * 10, y: Math.round(p.y / 10) * 10, moved } : h);
    }
  };
  const letGo = () => {
    const h = grip.current;
    hold(undefined);
    if (h?.moved) {
      onMove?.(h.id, h.x, h.y);
    }
  };
  return (
    <svg
      ref={svg}
      className="routes"
      style={{ fontSize: 12.5 * px, strokeWidth: px }}
      viewBox={`${left} ${top} ${width} ${height}`}
      onPointerMove={move}
      onPointerUp={letGo}
      onPointerLeave={letGo}
      role="group"
      aria-label="route map"
      data-testid="routes"
    >
      {map.paths.map((p) => (
        <PathLine
          key={p.id}
          px={px}
          path={p}
          bundle={of.get(p.id)}
          from={at.get(p.from)}
          to={at.get(p.to)}
          state={pathState(p, selected, lit)}
          onSelect={() => onSelect({ on: 'path', id: p.id })}
        />
      ))}
      {stations.map((s) => (
        <g
          key={s.id}
          className={`station${selected?.on === 'station' && selected.id === s.id ? ' on' : ''}${lit?.has(s.id) ? ' lit' : ''}`}
          role="button"
          tabIndex={0}
          aria-label={`station ${s.id}, ${things.get(s.id) ?? 0} things`}
          onKeyDown={(e) => e.key === 'Enter' && onSelect({ on: 'station', id: s.id })}
          onPointerDown={(e) => {
            onSelect({ on: 'station', id: s.id });
            if (onMove) {
              e.currentTarget.setPointerCapture(e.pointerId);
              hold({ id: s.id, x: s.x, y: s.y, moved: false });
            }
          }}
        >
          <circle cx={s.x} cy={s.y} r={((things.get(s.id) ?? 0) > 0 ? 11 : 7) * px} />
        </g>
      ))}
      {stations.map((s) => (
        <g key={s.id}>
          <text x={s.x} y={s.y + 4 * px} className="mono count">
            {things.get(s.id) ?? ''}
          </text>
          <text x={s.x} y={s.y - 16 * px} className="name">
            {s.id}
          </text>
        </g>
      ))}
    </svg>
  );
}

function pathState(p: RoutePath, selected: Spot | undefined, lit: ReadonlySet<string> | undefined): string {
  if (selected?.on === 'path' && selected.id === p.id) {
    return ' on';
  }
  return lit?.has(p.id) ? ' lit' : '';
}

interface LineProps {
  px: number;
  path: RoutePath;
  bundle: Bundle | undefined;
  from: Station | undefined;
  to: Station | undefined;
  state: string;
  onSelect: () => void;
}

/** What lies along a path, in the fewest signs. */
export function marksOf(p: RoutePath): string {
  return [p.heat ? `${p.heat} °C` : '', p.moving ? 'moves' : '', p.wet ? 'wet' : '', p.edge ? 'edge' : '']
    .filter(Boolean)
    .join(' · ');
}

function PathLine({ px, path, bundle, from, to, state, onSelect }: LineProps) {
  if (!from || !to) {
    return null;
  }
  const x = (from.x + to.x) / 2;
  const y = (from.y + to.y) / 2;
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const long = Math.hypot(dx, dy) || 1;
  const [nx, ny] = [-dy / long, dx / long];
  const thick = Math.max(1.6, (bundle?.laid ?? 0) * 0.45) * px;
  const steep = Math.abs(dy) > Math.abs(dx);
  const [tx, ty] = steep ? [x + thick / 2 + 5 * px, y] : [x, y + thick / 2 + 13 * px];
  return (
    <>
      <g
        className={`path${state}${path.waits ? ' waits' : ''}${(bundle?.wires.length ?? 0) === 0 ? ' bare' : ''}`}
        role="button"
        tabIndex={0}
        aria-label={`path ${path.id}, ${mm(path.length)}, ${bundle?.wires.length ?? 0} wires${marksOf(path) ? `, ${marksOf(path)}` : ''}`}
        onClick={onSelect}
        onKeyDown={(e) => e.key === 'Enter' && onSelect()}
      >
        <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} className="reach" strokeWidth={22 * px} />
        <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} className="run" strokeWidth={thick} />
        {path.wall &&
          [-3 * px, 3 * px].map((d) => (
            <line
              key={d}
              className="wall"
              x1={x + (dx / long) * d - nx * 16 * px}
              y1={y + (dy / long) * d - ny * 16 * px}
              x2={x + (dx / long) * d + nx * 16 * px}
              y2={y + (dy / long) * d + ny * 16 * px}
            />
          ))}
      </g>
      <text x={tx} y={ty} className={`mono long${steep ? ' beside' : ''}`}>
        {Math.round(path.length)}
      </text>
      <text x={tx} y={ty + 12.5 * px} className={`marks${steep ? ' beside' : ''}`}>
        {marksOf(path)}
      </text>
    </>
  );
}
