import './front.css';
import { Link } from 'react-router';
import { explain } from '../api/client';
import { useFront } from '../api/handover';
import type { FrontView } from '../api/types.gen';
import { changeWord } from './changes.gen';
import { usePlaces } from './stages';
import { useJobID } from './Frame';
import { stageName } from '../work/words';
import { When } from './When';

/** Where a job opens: where it stands, what is next and what that waits for, what is dangerous. Nothing else. */
export function FrontPage() {
  const job = useJobID();
  const front = useFront(job);
  if (front.isError && !front.data) {
    return <main className="page problem">{explain(front.error)}</main>;
  }
  return front.data ? <Front job={job} view={front.data} /> : <main className="page" aria-busy="true" />;
}

function Front({ job, view }: { job: string; view: FrontView }) {
  const placeOf = usePlaces();
  const to = (at: string) => `/jobs/${job}/${at}`;
  const all = view.steps + view.done;
  const shown = view.danger.length + Object.values(view.alike).reduce((sum, n) => sum + n, 0);
  return (
    <main className="front">
      <section className="frontnext" data-testid="next">
        <h1>Next</h1>
        {view.next ? (
          <>
            <p className="frontstep">
              <Link to={to(view.next.at)}>{view.next.text}</Link>
            </p>
            {view.next.why && <p className="quiet">{view.next.why}</p>}
            {view.next.warn.map((w) => (
              <p key={w} className="warned">
                ▲ {w}
              </p>
            ))}
            {view.next.waits.length > 0 && (
              <>
                <h2>It waits for</h2>
                <ul>
                  {view.next.waits.slice(0, 6).map((w) => (
                    <li key={w}>{w}</li>
                  ))}
                </ul>
                {view.next.waits.length > 6 && <p className="quiet">and {view.next.waits.length - 6} more</p>}
              </>
            )}
            {view.steps > 0 && (
              <p>
                <Link to={to('bench')}>At the bench</Link> · <Link to={to('work')}>the whole list</Link>
              </p>
            )}
          </>
        ) : (
          <p className="frontstep">All work is done, proven and handed over.</p>
        )}
      </section>
      <section className="frontstand">
        <h2>Where it stands</h2>
        <p>
          <strong className="mono">{view.done}</strong> of {all} steps done, about{' '}
          <strong className="mono">{view.hours.toFixed(1)} h</strong> left
          {view.ready ? (
            <>
              , ready on <strong className="mono">{view.ready}</strong>
            </>
          ) : null}
          . {view.proven ? '✓ The plan is proven.' : `✕ ${view.line}`}{' '}
          {view.delivered && `Last handed over: ${view.delivered}.`}
        </p>
        {view.late[0] && (
          <p className="warned">
            ▲{' '}
            <Link to={to('handover?part=money')}>
              {view.late.length === 1 ? 'A part is late' : `${view.late.length} parts are late`}:{' '}
              {view.late[0].what}, wanted on {view.late[0].wants}, comes on {view.late[0].there}
            </Link>
          </p>
        )}
        <table className="table" aria-label="stages" data-testid="standing">
          <tbody>
            {view.stages.map((s) => (
              <tr key={s.stage}>
                <td>
                  <Link to={to(s.stage)}>{stageName(s.stage)}</Link>
                </td>
                <td className="frontbar">
                  <span
                    style={{ width: `${s.done + s.open > 0 ? (100 * s.done) / (s.done + s.open) : 0}%` }}
                  />
                </td>
                <td className="mono oneline">
                  {s.open === 0 ? '✓' : `${s.open} open`}
                  {s.done > 0 ? `, ${s.done} done` : ''}
                </td>
                <td className="quiet">
                  {s.what}
                  {s.held ? `; ${s.held}` : ''}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section className="frontdanger" data-testid="danger">
        <h2>
          {view.dangers === 0 ? '✓ Nothing that can hurt is known' : `▲ ${view.dangers} that can hurt`}
          {view.wrong > 0 && <span className="quiet"> and {view.wrong} that will not work (F)</span>}
        </h2>
        {view.danger.map((f) => (
          <p key={f.code + (f.subject ?? '') + f.text}>
            <Link to={to(placeOf(f))}>{f.text}</Link> <span className="quiet">{f.remedy}</span>
            {!!view.alike[f.code] && <strong> And {view.alike[f.code]} like it.</strong>}
          </p>
        ))}
        {view.dangers > shown && <p className="quiet">{view.dangers - shown} more in the findings.</p>}
        <h2>Last</h2>
        {view.last.map((e) => (
          <p key={e.seq} className={e.undone ? 'quiet' : ''}>
            <span className="mono quiet">
              <When ms={e.at} />
            </span>{' '}
            {e.who}: {changeWord[e.what] ?? e.what} {e.about}
            {e.reason ? ` “${e.reason}”` : ''}
          </p>
        ))}
      </section>
    </main>
  );
}
