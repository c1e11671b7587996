import { AutoComplete, Button, Select } from 'antd';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import type { Limb, Spot, ThinView } from '../../api/types.gen';
import { useKey } from '../../keys/useKey';
import { fitting } from './fitting';
import type { Selection } from './selection';
import { usePanZoom } from '../../harness/usePanZoom';

interface Props {
  view: ThinView;
  selected: Selection | undefined;
  /** By wire of the selected circuit: the limbs that it runs through. */
  lit: Record<string, string[]> | undefined;
  /** The position of the key in which what is live is lit, empty for none. */
  live: string;
  onLive: (position: string) => void;
  onSelect: (s: Selection) => void;
  onWire: (id: string) => void;
}

/** The harness as a person lays it on the bench: trunks, branches, connectors at the ends. Not to scale. */
export function HarnessDrawing({ view, selected, lit, live, onLive, onSelect, onWire }: Props) {
  const { drawing } = view;
  const box = useRef<HTMLDivElement>(null);
  const pan = usePanZoom(box, drawing.width, drawing.height);
  const litLimbs = useMemo(() => new Set(Object.values(lit ?? {}).flat()), [lit]);
  const ends = useMemo(() => {
    const names = new Set<string>();
    for (const w of view.wires) {
      if (lit && w.id in lit) {
        for (const e of w.ends) {
          names.add(e.splice ? `splice ${e.splice}` : `connector ${e.at?.connector ?? ''}`);
        }
      }
    }
    return names;
  }, [lit, view.wires]);
  const size = Math.max(9, Math.min(19, 13 / pan.scale));
  const { show } = pan;
  const shown = selected && `${selected.on} ${selected.id}`;
  useEffect(() => {
    const spot = drawing.spots.find((s) => `${s.kind} ${s.id}` === shown);
    const limb = drawing.branches.find((b) => shown === `branch ${b.id}`);
    if (spot) {
      show(spot.x, spot.y);
    } else if (limb) {
      show((limb.x1 + limb.x2) / 2, (limb.y1 + limb.y2) / 2, 1.15);
    }
  }, [shown, drawing, show]);
  useKey('+', () => pan.zoom(1.25));
  useKey('-', () => pan.zoom(0.8));
  useKey('0', pan.fit);
  return (
    <div className="drawing" ref={box}>
      <div className="drawingtools">
        <FindWire view={view} onWire={onWire} />
        <Select
          size="small"
          style={{ width: 148 }}
          aria-label="what is live"
          value={live}
          onChange={onLive}
          options={[
            { value: '', label: 'live: not shown' },
            ...['off', 'accessory', 'run', 'crank', 'running'].map((k) => ({
              value: k,
              label: `live in ${k}`,
            })),
          ]}
        />
        <Button size="small" onClick={() => pan.zoom(1.25)} aria-label="nearer">
          +
        </Button>
        <Button size="small" onClick={() => pan.zoom(0.8)} aria-label="farther">
          −
        </Button>
        <Button size="small" onClick={pan.fit}>
          Whole
        </Button>
      </div>
      <svg
        role="group"
        aria-label="the harness as it is laid on the bench"
        data-testid="drawing"
        viewBox={pan.viewBox}
        onPointerDown={pan.grab}
        onPointerMove={pan.drag}
        onPointerUp={pan.drop}
        onPointerLeave={pan.drop}
        onClick={(e) => {
          const hit = e.target instanceof Element ? e.target.closest<SVGElement>('[data-on]') : null;
          if (hit?.dataset.on && hit.dataset.id !== undefined) {
            onSelect({ on: hit.dataset.on as Selection['on'], id: hit.dataset.id });
          }
        }}
      >
        {drawing.branches.map((b) => (
          <LimbLines key={b.id} limb={b} lit={litLimbs.has(b.id)} />
        ))}
        {drawing.branches
          .filter((b) => !b.twig)
          .map((b) => (
            <LimbName key={b.id} limb={b} size={size} on={shown === `branch ${b.id}`} />
          ))}
        {drawing.spots.map((s) => (
          <SpotMark
            key={`${s.kind} ${s.id}`}
            spot={s}
            size={size}
            on={shown === `${s.kind} ${s.id}` || (selected?.on === 'module' && selected.id === s.device)}
            lit={ends.has(`${s.kind} ${s.id}`)}
          />
        ))}
      </svg>
      <Legend />
    </div>
  );
}

/** A limb's wires as up to three lines side by side: kept solid, undecided dashed, going hollow; thicker for more. */
const LimbLines = memo(function LimbLines({ limb, lit }: { limb: Limb; lit: boolean }) {
  const dx = limb.x2 - limb.x1;
  const dy = limb.y2 - limb.y1;
  const length = Math.hypot(dx, dy) || 1;
  const nx = -dy / length;
  const ny = dx / length;
  const lanes = [
    { kind: 'keep', n: limb.keep },
    { kind: 'open', n: limb.undecided },
    { kind: 'goes', n: limb.goes },
  ].filter((l) => l.n > 0);
  const wide = (n: number) => Math.min(6, 1.4 + Math.log2(n + 1) * 0.7);
  const line = (offset: number) => ({
    x1: limb.x1 + nx * offset,
    y1: limb.y1 + ny * offset,
    x2: limb.x2 + nx * offset,
    y2: limb.y2 + ny * offset,
  });
  const total = lanes.reduce((sum, l) => sum + wide(l.n) + 2.5, -2.5);
  let at = -total / 2;
  return (
    <g>
      {lit && (
        <line
          {...line(0)}
          stroke="var(--petrol)"
          strokeOpacity="0.3"
          strokeWidth={Math.max(total, 2) + 9}
          strokeLinecap="round"
        />
      )}
      {lanes.length === 0 && <line {...line(0)} stroke="var(--hairline)" strokeWidth="1" />}
      {lanes.map((l) => {
        const w = wide(l.n);
        const offset = at + w / 2;
        at += w + 2.5;
        if (l.kind === 'goes') {
          return (
            <g key={l.kind}>
              <line {...line(offset)} stroke="var(--ink)" strokeWidth={w + 1.4} />
              <line {...line(offset)} stroke="var(--page)" strokeWidth={w - 0.8} />
            </g>
          );
        }
        return (
          <line
            key={l.kind}
            {...line(offset)}
            stroke="var(--ink)"
            strokeWidth={w}
            strokeDasharray={l.kind === 'open' ? '7 4' : undefined}
          />
        );
      })}
    </g>
  );
});

/** A name stands beyond the end of what it names. */
const LimbName = memo(function LimbName({ limb, on, size }: { limb: Limb; on: boolean; size: number }) {
  const trunk = limb.y1 === limb.y2;
  const up = limb.y2 < limb.y1;
  return (
    <text
      x={trunk ? limb.x2 + 7 : limb.x2 - 7}
      y={trunk ? limb.y1 + size * 0.35 : limb.y2 + (up ? -5 : size + 1)}
      fontSize={size}
      className={`limbname${on ? ' on' : ''}`}
      role="button"
      tabIndex={-1}
      data-on="branch"
      data-id={limb.id}
    >
      {limb.id}
      {limb.length && size < 16 ? <tspan className="quietfill"> {limb.length} mm</tspan> : null}
    </text>
  );
});

interface SpotProps {
  spot: Spot;
  /** Of the type, so that it is legible at any distance. */
  size: number;
  on: boolean;
  lit: boolean;
}

const SpotMark = memo(function SpotMark({ spot: s, size, on, lit }: SpotProps) {
  const wires = s.keep + s.goes + s.undecided;
  if (s.kind === 'splice') {
    return (
      <g className="spot" data-on="splice" data-id={s.id} role="button" aria-label={`splice ${s.id}`}>
        <circle
          cx={s.x}
          cy={s.y}
          r={on ? 7 : 5}
          fill={s.fate === 'remove' ? 'var(--page)' : 'var(--ink)'}
          stroke={on || lit ? 'var(--petrol)' : 'var(--ink)'}
          strokeWidth={on || lit ? 3 : 1.4}
          strokeDasharray={s.implied ? '2 2' : undefined}
          {...(s.implied ? { fill: 'var(--page)' } : {})}
        />
        <text x={s.x + 9} y={s.y + size * 0.35} fontSize={size} className="spotname">
          {s.id}
        </text>
      </g>
    );
  }
  const device = s.device ?? (s.locked ? 'not ours' : '');
  const label = `${s.id} ${device}`.trim();
  const idWidth = s.id.length * size * 0.62;
  const small = Math.max(9.5, size * 0.74);
  return (
    <>
      <g
        className="spot"
        data-on="connector"
        data-id={s.id}
        role="button"
        aria-label={`connector ${label}, ${wires} wires`}
      >
        <rect
          x={s.x}
          y={s.y - 10}
          width={s.width}
          height="20"
          rx="2"
          fill={on ? 'var(--selected)' : 'var(--page)'}
          stroke={on || lit ? 'var(--petrol)' : 'var(--hairline)'}
          strokeWidth={on || lit ? 2.5 : 1}
          strokeDasharray={s.off ? '4 3' : undefined}
        />
        <title>{label}</title>
        <text
          x={s.x + 4}
          y={s.y + size * 0.35}
          fontSize={size}
          className={`spotname${s.off ? ' struck' : ''}`}
        >
          {s.id}
        </text>
      </g>
      <text x={s.x + 8 + idWidth} y={s.y + 4} fontSize={small} className="spotdevice" aria-hidden="true">
        {fitting(device, small, (s.width ?? 0) - 12 - idWidth)}
      </text>
    </>
  );
});

function FindWire({ view, onWire }: { view: ThinView; onWire: (id: string) => void }) {
  const [text, setText] = useState('');
  const input = useRef<HTMLDivElement>(null);
  useKey('/', () => input.current?.querySelector('input')?.focus());
  const wanted = text.trim().toLowerCase();
  const options = wanted
    ? view.wires
        .filter((w) =>
          [w.id, w.function, w.circuit, ...w.ends.map((e) => `${e.at?.connector ?? ''}${e.at?.cavity ?? ''}`)]
            .join(' ')
            .toLowerCase()
            .includes(wanted),
        )
        .slice(0, 12)
        .map((w) => ({ value: w.id, label: `${w.id} ${w.function ?? ''}` }))
    : [];
  const pick = (id: string) => {
    onWire(id);
    setText('');
    input.current?.querySelector('input')?.blur();
  };
  return (
    <div ref={input}>
      <AutoComplete
        size="small"
        style={{ width: 190 }}
        value={text}
        options={options}
        onChange={(t: string) => setText(t)}
        onSelect={pick}
        onKeyDown={(e) => {
          const [first] = options;
          if (e.key === 'Enter' && first) {
            pick(first.value);
          }
        }}
        placeholder="/ find a wire"
        aria-label="find a wire"
      />
    </div>
  );
}

function Legend() {
  return (
    <div className="drawinglegend quiet" aria-hidden="true">
      <span>━ kept</span>
      <span>▭ goes</span>
      <span>┅ undecided</span>
      <span>● splice</span>
      <span>◌ implied</span>
      <span>drag, wheel, + − 0</span>
    </div>
  );
}
