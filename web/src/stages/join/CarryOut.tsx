import { Button } from 'antd';
import { Link, useNavigate } from 'react-router';
import { explain } from '../../api/client';
import { useAddWire } from '../../api/join';
import type { Added, JoinView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { refName } from '../../harness/cavity';
import { WireSwatch } from '../../harness/WireSwatch';
import { useKey } from '../../keys/useKey';
import { WorkRows } from '../../work/WorkRows';

const places = (a: Added): string =>
  [
    a.in ? `in the wire behind ${refName(a.in)}` : '',
    ...(a.leads ?? []).map((l) => (a.body === 'wire' ? l.to : `${l.point} to ${l.to}`)),
  ]
    .filter(Boolean)
    .join(a.body === 'wire' ? ' – ' : ', ');

/** What the functions bring with them: parts, settings, the vehicle's wires that are worked on, and the steps. */
export function CarryOut({ job, view }: { job: string; view: JoinView }) {
  const go = useNavigate();
  const out = useAddWire(job);
  const toBench = () => void go('../bench?stage=join');
  useKey('b', toBench);
  return (
    <div className="carryout">
      <h2>Parts</h2>
      {view.parts.length === 0 ? (
        <p className="quiet">None is taken: a way to make a function work brings them.</p>
      ) : (
        <table className="table" aria-label="parts">
          <tbody>
            {view.parts.map((a) => (
              <tr key={a.id}>
                <td className="mono">{a.id}</td>
                <td>{a.what}</td>
                <td className="quiet">{places(a)}</td>
                <td className="quiet">{view.items.find((i) => i.id === a.function)?.name}</td>
                <td>
                  <Button
                    size="small"
                    onClick={() =>
                      out.mutate(
                        { seen: view.revision, out: a.id },
                        { onError: (e) => notice.warning(explain(e)) },
                      )
                    }
                  >
                    Take it out
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {view.settings.length > 0 && (
        <>
          <h2>Set in the unit</h2>
          {view.settings.map((x) => (
            <p key={x}>{x}</p>
          ))}
        </>
      )}
      <h2>The vehicle’s wires that are cut or joined: each by its table, and by the meter</h2>
      <table className="table named" aria-label="named twice">
        <tbody>
          {view.named.map((n) => (
            <tr key={refName(n.at)}>
              <td className="mono oneline">{refName(n.at)}</td>
              <td>
                <WireSwatch colour={n.row.colour} bare="right" />
              </td>
              <td>
                {n.row.function}
                <div className="quiet">{n.for.join('; ')}</div>
              </td>
              <td>
                {n.measured ? (
                  <>✓ {(n.read ?? []).join('; ') || 'measured'}</>
                ) : (
                  <>
                    <span className="quiet">to be seen: {n.proof}</span>{' '}
                    <Link to="../gather?part=readings">Enter it</Link>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="bar">
        <h2>Steps</h2>
        <Link to="../work">All stages in one list</Link>
        <span className="grow" />
        <Button size="small" disabled={view.steps.length === 0} onClick={toBench}>
          Bench view <kbd>B</kbd>
        </Button>
      </div>
      <div className="joinsteps">
        {view.steps.length === 0 ? (
          <p className="quiet">Nothing is joined.</p>
        ) : (
          <WorkRows job={job} revision={view.revision} steps={view.steps} />
        )}
      </div>
    </div>
  );
}
