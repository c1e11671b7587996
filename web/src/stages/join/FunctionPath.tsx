import { useState } from 'react';
import { Link } from 'react-router';
import { useHolds } from '../../api/join';
import type { EndAt, Item, JoinView, Leg } from '../../api/types.gen';
import { KeyTabs, SwitchTabs } from '../../work/KeyTabs';
import { amps } from '../../work/amps';
import { liveWord } from '../../work/live';

/** What is joined and also does its work only while everything before it lets current through. */
const held = ['compressor', 'brake', 'reverse', 'boost'];

/** The circuits of a function: the ends that are one, the wires that join them, live in the position that is chosen. */
export function FunctionPath({ job, view, item }: { job: string; view: JoinView; item: Item }) {
  const [position, turn] = useState(item.id === 'start' ? 'crank' : 'running');
  const [sw, flip] = useState(view.closed);
  const legs = view.legs.filter((l) => l.function === item.id);
  if (item.at.length === 0) {
    return <p className="quiet pathempty">No wire of the finished harness is for it.</p>;
  }
  return (
    <div className="path">
      {view.said ? (
        <KeyTabs positions={view.positions} at={position} onTurn={turn} />
      ) : (
        <div className="bar feedkeys quiet">
          Say in Feed what stands in the vehicle: then it is shown what is live here.
        </div>
      )}
      {(item.kind === 'works' || held.includes(item.id)) && view.said && (
        <>
          <SwitchTabs label="switches" switches={view.switches} on={sw} onFlip={flip} />
          {[...new Set(item.at.filter((e) => !e.unit).map((e) => e.device))].map((d) => (
            <Holds key={d} {...{ job, view, position, sw }} device={d} />
          ))}
        </>
      )}
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
      <div className="legmid">
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
              {liveWord[is.live]}
              {is.live !== 'floating' && `, ${is.volts.toFixed(1)} V`}
              {is.amps >= 0.0005 && `, ${amps(is.amps)}`}
            </text>
          )}
        </svg>
        {wires[0] && (
          <Link className="quiet" to={`../handover?part=book&wire=${encodeURIComponent(wires[0])}`}>
            its drawing
          </Link>
        )}
      </div>
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

/** What must let current through for a device to work, in the order in which it comes: each of them alone stops it. */
function Holds(p: { job: string; view: JoinView; device: string; position: string; sw: string[] }) {
  const holds = useHolds(p.job, p.view.revision, p.device, p.position, p.sw);
  const all = holds.data?.holds ?? [];
  if (holds.isError) {
    return null; // it uses no current: a relay, a switch
  }
  return (
    <div className="holds" data-testid="holds">
      {all.length === 0 ? (
        <span className="quiet">
          <strong>{p.device}</strong> does not work in {p.position}.
        </span>
      ) : (
        <>
          <span className="holdbox">battery</span>
          {all.map((h) => (
            <span
              key={h.kind + h.name}
              className="holdbox"
              title={`${amps(h.amps)}, ${h.volts.toFixed(1)} V`}
            >
              <span className="quiet">{h.kind}</span> {h.name.replace(`${h.kind} `, '')}
            </span>
          ))}
          <span className="holdbox end">{p.device}</span>
        </>
      )}
    </div>
  );
}
