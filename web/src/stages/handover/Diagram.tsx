import { useRef } from 'react';
import { usePanZoom } from '../../harness/usePanZoom';
import { useKey } from '../../keys/useKey';
import type { DiagramDrawing, DiagramPlaced, DiagramRun } from '../../api/types.gen';
import { paintOf } from '../../harness/insulation';

interface Props {
  drawing: DiagramDrawing;
  /** The wires that are chosen. */
  chosen: ReadonlySet<string>;
  /** By wire: what it is under the chosen key; nothing where the book is shown as it is printed. */
  live: ReadonlyMap<string, string> | undefined;
  onPick: (wire: string) => void;
}

/** Screen dots a mm at the scale at which a drawing is first shown. */
const perMM = 3.6;

/** A page of the book as the core has laid it out, mm by mm; it is moved by dragging, and nearer or farther by the wheel. */
export function Diagram({ drawing, chosen, live, onPick }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const pan = usePanZoom(box, (drawing.wide + 4) * perMM, (drawing.high + 4) * perMM);
  useKey('+', () => pan.zoom(1.25));
  useKey('-', () => pan.zoom(0.8));
  useKey('0', pan.fit);
  return (
    <div className="diagram" ref={box}>
      <svg
        role="img"
        aria-label="diagram"
        viewBox={pan.viewBox}
        onPointerDown={pan.grab}
        onPointerMove={pan.drag}
        onPointerUp={pan.drop}
        onPointerLeave={pan.drop}
      >
        <g transform={`scale(${perMM}) translate(2 2)`}>
          {drawing.runs.map((r) => (
            <Wire
              key={r.id}
              run={r}
              chosen={chosen.has(r.id)}
              live={live?.get(r.id)}
              onPick={() => onPick(r.id)}
            />
          ))}
          {drawing.symbols.map((s) => (
            <Symbol key={s.id} s={s} />
          ))}
          {drawing.texts.map((t, i) => (
            <text
              key={i}
              x={t.x}
              y={t.y}
              fontSize={t.size}
              fontWeight={t.bold ? 700 : 400}
              className={t.quiet ? 'diagramquiet' : 'diagramtext'}
            >
              {t.words}
            </text>
          ))}
        </g>
      </svg>
      <div className="diagramkeys">
        <button className="plain" aria-label="nearer" onClick={() => pan.zoom(1.25)}>
          +
        </button>
        <button className="plain" aria-label="farther" onClick={() => pan.zoom(0.8)}>
          −
        </button>
        <button className="plain" aria-label="0: the whole drawing" onClick={pan.fit}>
          0
        </button>
      </div>
    </div>
  );
}

interface WireProps {
  run: DiagramRun;
  chosen: boolean;
  live: string | undefined;
  onPick: () => void;
}

function Wire({ run, chosen, live, onPick }: WireProps) {
  const d = run.points.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.x} ${p.y}`).join('');
  const [base, tracer] = (run.colours ?? []).map((code) => paintOf({ code }));
  const dash = run.dotted ? '1.4 1' : undefined;
  if (live !== undefined && live !== 'live') {
    return (
      <g onClick={onPick} className={`diagramwire${chosen ? ' chosen' : ''}`} data-live={live}>
        <path d={d} className={`diagramdead ${live}`} />
        <path d={d} className="diagramtouch" />
      </g>
    );
  }
  return (
    <g onClick={onPick} className={`diagramwire${chosen ? ' chosen' : ''}`} data-live={live}>
      <path d={d} className="diagramedge" strokeDasharray={dash} />
      <path d={d} stroke={base ?? 'var(--page)'} strokeWidth="0.8" fill="none" strokeDasharray={dash} />
      {tracer && <path d={d} stroke={tracer} strokeWidth="0.26" fill="none" strokeDasharray={dash} />}
      <path d={d} className="diagramtouch" />
    </g>
  );
}

function Symbol({ s }: { s: DiagramPlaced }) {
  const rows = s.ports.map((p) => p.at.y);
  const top = rows.length > 0 ? Math.min(...rows) : s.y + s.high / 2;
  const bottom = rows.length > 0 ? Math.max(...rows) : top;
  const middle = s.x + s.wide / 2;
  const centre = (top + bottom) / 2;
  const reach = s.ports.map((p) => `M${p.at.x} ${p.at.y}H${middle}`).join('') + `M${middle} ${top}V${bottom}`;
  switch (s.kind) {
    case 'splice':
      return (
        <g className="diagramsymbol">
          <path d={reach} />
          <circle cx={middle} cy={centre} r="0.9" className="solid" />
        </g>
      );
    case 'joint':
      return (
        <g className="diagramsymbol">
          <path d={reach} />
          <path d={`M${middle - 1.4} ${centre}l1.4 -1.4 1.4 1.4 -1.4 1.4z`} className="hollow" />
        </g>
      );
    case 'plug':
      return (
        <g className="diagramsymbol">
          {s.ports.map((p, i) => {
            const half = middle + (p.right ? 0.6 : -0.6);
            return <path key={i} d={`M${p.at.x} ${p.at.y}H${half}M${half} ${p.at.y - 1.6}v3.2`} />;
          })}
        </g>
      );
    case 'ground':
      return (
        <path
          className="diagramsymbol"
          d={`${reach}M${middle} ${bottom}v1.4m-2.2 0h4.4m-3.6 0.9h2.8m-2 0.9h1.2`}
        />
      );
    case 'stub':
      return (
        <path
          className="diagramsymbol"
          d={`${reach}M${middle - 0.9} ${top - 0.9}l1.8 1.8M${middle - 0.9} ${top + 0.9}l1.8 -1.8`}
        />
      );
    case 'fuse':
      return (
        <g className="diagramsymbol">
          <path d={reach} />
          <rect x={middle - 3.4} y={centre - 1.4} width="6.8" height="2.8" className="hollow" />
          <path d={`M${middle - 3.4} ${centre}h6.8`} />
        </g>
      );
  }
  return <rect x={s.x} y={s.y} width={s.wide} height={s.high} className="diagramsymbol" />;
}
