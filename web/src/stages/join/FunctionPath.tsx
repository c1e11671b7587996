import { useState } from 'react';
import type { EndAt, Item, JoinView, Leg } from '../../api/types.gen';
import { amps } from '../../work/amps';

/** The circuits of a function: the ends that are one, the wires that join them, live in the position that is chosen. */
export function FunctionPath({ view, item }: { view: JoinView; item: Item }) {
  const [position, turn] = useState('run');
  const legs = view.legs.filter((l) => l.function === item.id);
  if (item.at.length === 0) {
    return <p className="quiet pathempty">No wire of the finished harness is for it.</p>;
  }
  return (
    <div className="path">
      <div className="bar feedkeys" role="group" aria-label="position of the key">
        {view.said ? (
          view.positions.map((p) => (
            <button
              key={p.name}
              className={`plain keytab${p.name === position ? ' on' : ''}`}
              aria-pressed={p.name === position}
              onClick={() => turn(p.name)}
            >
              {p.name}
            </button>
          ))
        ) : (
          <span className="quiet">
            Say in Feed what stands in the vehicle: then it is shown what is live here.
          </span>
        )}
      </div>
      {legs.map((l) => (
        <LegRow
          key={l.circuit}
          leg={l}
          ends={item.at.filter((e) => e.circuit === l.circuit)}
          position={position}
        />
      ))}
    </div>
  );
}

const high = 44;

/** One circuit: its ends left and right of the wires that join them; an end that is alone is drawn open. */
function LegRow({ leg, ends, position }: { leg: Leg; ends: EndAt[]; position: string }) {
  const devices = [...new Set(ends.map((e) => e.device))];
  const left = ends.filter((e) => e.device === devices[0]);
  const right = ends.filter((e) => e.device !== devices[0]);
  const rows = Math.max(left.length, right.length, 1);
  const is = leg.in?.find((x) => x.position === position);
  const live = is?.live === 'live';
  const whole = right.length > 0;
  const mid = (rows * high) / 2;
  const y = (n: number, of: number) => mid + (n - (of - 1) / 2) * high;
  const wires = leg.wires.filter((w) => !w.includes(' stub'));
  return (
    <div className="legrow">
      <div className="legends">
        {left.map((e) => (
          <EndBox key={e.at} end={e} />
        ))}
      </div>
      <svg
        width="290"
        height={rows * high}
        className={`legwire${live ? ' live' : ''}${whole ? '' : ' open'}`}
      >
        {left.map((e, i) => (
          <path key={e.at} d={`M0 ${y(i, left.length)}C30 ${y(i, left.length)} 20 ${mid} 44 ${mid}`} />
        ))}
        <path d={`M44 ${mid}H${whole ? 246 : 226}`} />
        {whole ? (
          right.map((e, i) => (
            <path
              key={e.at}
              d={`M246 ${mid}C270 ${mid} 260 ${y(i, right.length)} 290 ${y(i, right.length)}`}
            />
          ))
        ) : (
          <circle cx="230" cy={mid} r="4" />
        )}
        <text x="145" y={mid - 6} textAnchor="middle">
          {wires.slice(0, 3).join(', ')}
          {wires.length > 3 && ` + ${wires.length - 3}`}
        </text>
        {is && (
          <text x="145" y={mid + 15} textAnchor="middle" className="quietfill">
            {is.live === 'floating' ? 'floating' : `${is.live}, ${is.volts.toFixed(1)} V`}
            {is.amps >= 0.0005 && `, ${amps(is.amps)}`}
          </text>
        )}
      </svg>
      <div className="legends">
        {right.map((e) => (
          <EndBox key={e.at} end={e} />
        ))}
        {!whole && <span className="quiet">leads to nothing of this function</span>}
      </div>
    </div>
  );
}

function EndBox({ end }: { end: EndAt }) {
  return (
    <div className="endbox">
      <strong>{end.device}</strong> <span className="mono">{end.at}</span>
      <div className="quiet">{end.text}</div>
    </div>
  );
}
