import { Button } from 'antd';
import { Link, useNavigate } from 'react-router';
import type { FeedView } from '../../api/types.gen';
import { useKey } from '../../keys/useKey';
import { WorkRows } from '../../work/WorkRows';

/** What is needed beside wire, and the steps of this stage. */
export function FeedWork({ job, view }: { job: string; view: FeedView }) {
  const go = useNavigate();
  const toBench = () => void go('../bench?stage=feed');
  useKey('b', toBench);
  return (
    <div className="feedwork">
      <section className="feedscroll">
        <h2>Parts</h2>
        {view.parts.length === 0 ? (
          <p className="quiet">
            Nothing is needed: no block of its own, and every fuse stays as it is. Wire, terminals and
            connectors stand in Reach and Pin.
          </p>
        ) : (
          <table className="table" aria-label="parts">
            <thead>
              <tr>
                <th>need</th>
                <th>what</th>
                <th>for</th>
              </tr>
            </thead>
            <tbody>
              {view.parts.map((x) => (
                <tr key={x.what}>
                  <td className="mono">{x.count}</td>
                  <td>
                    {x.what} {x.note && <span className="quiet">{x.note}</span>}
                  </td>
                  <td className="mono quiet">{x.for.join(', ')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <section className="feedsteps">
        <div className="bar feedkeys">
          <strong>Steps</strong>
          <span className="quiet">
            Fuses go in last, one after the other. <Link to="../work">All stages in one list</Link>
          </span>
          <span className="grow" />
          <Button size="small" disabled={view.steps.length === 0} onClick={toBench}>
            Bench view <kbd>B</kbd>
          </Button>
        </div>
        {view.steps.length === 0 ? (
          <p className="quiet feedscroll">
            Nothing is to be done: no block of its own, and no fuse is changed.
          </p>
        ) : (
          <WorkRows job={job} revision={view.revision} steps={view.steps} />
        )}
      </section>
    </div>
  );
}
