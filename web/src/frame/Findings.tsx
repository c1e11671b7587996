import { Drawer } from 'antd';
import { useNavigate } from 'react-router';
import type { JobView } from '../api/types.gen';
import { severityWord, SeverityMark } from './SeverityMark';

const sideName = (job: JobView, side: string | undefined) =>
  side === 'from' ? job.sides.from : side === 'to' ? job.sides.to : '';

/** What is wrong or doubtful about the job, worst first. A finding about a cavity leads to its row. */
export function Findings({ job, open, onClose }: { job: JobView; open: boolean; onClose: () => void }) {
  const navigate = useNavigate();
  const show = (side: string | undefined, subject: string | undefined) => {
    onClose();
    void navigate(`/jobs/${job.id}/match?row=${encodeURIComponent(`${side ?? 'from'} ${subject ?? ''}`)}`);
  };
  return (
    <Drawer open={open} onClose={onClose} title={`Findings in ${job.title}`} size={520}>
      {job.findings.length === 0 && <p>Nothing is found wrong or doubtful.</p>}
      <div className="stack">
        {job.findings.map((f) => (
          <div key={`${f.code} ${f.side} ${f.subject} ${f.text}`}>
            <div className="bar" style={{ gap: 6 }}>
              <SeverityMark severity={f.severity} />
              <strong>{severityWord[f.severity]}</strong>
              <span className="quiet">{sideName(job, f.side)}</span>
              <span className="grow" />
              {f.subject && f.code !== 'unverified-feed' && (
                <button className="plain mono" onClick={() => show(f.side, f.subject)}>
                  {f.subject}
                </button>
              )}
            </div>
            <div>{f.text}</div>
            {f.remedy && <div className="quiet">{f.remedy}</div>}
          </div>
        ))}
      </div>
    </Drawer>
  );
}
