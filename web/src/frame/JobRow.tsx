import { Link } from 'react-router';
import { useStand } from '../api/handover';
import type { JobLine } from '../api/types.gen';
import { SeverityMark } from './SeverityMark';
import { When } from './When';

/** A job in one line; where it stands is asked for when the line is on screen. */
export function JobRow({ job, kind, onArchive }: { job: JobLine; kind: string; onArchive: () => void }) {
  const stand = useStand(job.id, job.revision);
  const s = stand.data;
  const to = `/jobs/${job.id}`;
  const all = s ? s.steps + s.done : 0;
  return (
    <tr>
      <td>
        <Link to={to}>
          <strong>{job.title}</strong>
        </Link>
        {job.demo && <span className="demomark">demo</span>}
        <div className="quiet">
          {[job.donor, job.chassis].filter(Boolean).join(' → ')}
          {(job.donor || job.chassis) && ' · '}
          {kind.toLowerCase()}
        </div>
      </td>
      {s ? (
        <>
          <td className="jobnext">
            {s.next ? <Link to={`${to}/${s.at ?? ''}`}>{s.next}</Link> : '✓ done and handed over'}
            {s.waits && <div className="quiet">waits for: {s.waits}</div>}
          </td>
          <td className="oneline">
            <span className="jobbar" aria-hidden="true">
              <span style={{ width: `${all > 0 ? (100 * s.done) / all : 0}%` }} />
            </span>
            <span className="mono">
              {s.done}/{all}
            </span>
          </td>
          <td className="mono right oneline">{s.hours > 0 ? `${s.hours.toFixed(1)} h` : ''}</td>
          <td className="mono oneline">{s.ready ?? <span className="quiet">–</span>}</td>
          <td className="oneline">
            {s.danger > 0 && (
              <span className="jobfound" title={`${s.danger} that can hurt`}>
                <SeverityMark severity="danger" /> {s.danger}
              </span>
            )}
            {s.wrong > 0 && (
              <span className="jobfound" title={`${s.wrong} that will not work`}>
                <SeverityMark severity="wrong" /> {s.wrong}
              </span>
            )}
            {s.danger + s.wrong === 0 && '✓'}
          </td>
          <td className="mono right oneline">{s.late > 0 ? `▲ ${s.late}` : ''}</td>
          <td className="oneline">
            {s.last}{' '}
            <span className="mono quiet">
              <When ms={job.changed} day />
            </span>
            {s.delivered && <div className="quiet">{s.delivered}</div>}
          </td>
        </>
      ) : (
        <td colSpan={7} className="quiet">
          {stand.isError
            ? 'what follows from it cannot be worked out: open it'
            : 'working out where it stands…'}
        </td>
      )}
      <td>
        <button
          className="plain quiet"
          onClick={onArchive}
          title={job.archived ? 'back among those worked at' : 'put it away'}
        >
          {job.archived ? 'back' : 'away'}
        </button>
      </td>
    </tr>
  );
}
