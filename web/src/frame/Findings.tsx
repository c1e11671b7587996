import { Button, Drawer } from 'antd';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { explain } from '../api/client';
import { useAnswer } from '../api/work';
import { ReasonDialog } from '../work/ReasonDialog';
import type { Finding, JobView } from '../api/types.gen';
import { notice } from './notice';
import { severityWord, SeverityMark } from './SeverityMark';
import { usePlaces } from './stages';

const sideName = (job: JobView, side: string | undefined) =>
  side === 'from' ? job.sides.from : side === 'to' ? job.sides.to : '';

interface Props {
  job: JobView;
  open: boolean;
  onClose: () => void;
  /** Opens what is said of the job itself. */
  onJob: () => void;
}

/** What is wrong or doubtful about the job, worst first. A finding about a cavity leads to its row. */
export function Findings({ job, open, onClose, onJob }: Props) {
  const navigate = useNavigate();
  const placeOf = usePlaces();
  const show = (f: Finding) => {
    onClose();
    if (f.code === 'not-one-scheme') {
      onJob();
      return;
    }
    void navigate(`/jobs/${job.id}/${placeOf(f)}`);
  };
  const [answering, ask] = useState<Finding | undefined>();
  const answer = useAnswer(job.id);
  const say = (f: Finding, reason: string) =>
    answer.mutate(
      {
        seen: Number.MAX_SAFE_INTEGER,
        answer: {
          code: f.code,
          ...(f.stage ? { stage: f.stage } : {}),
          ...(f.side ? { side: f.side } : {}),
          ...(f.subject ? { subject: f.subject } : {}),
          text: f.text,
          reason,
        },
      },
      { onError: (e) => notice.warning(explain(e)) },
    );
  const unanswered = job.findings.filter((f) => !f.answer);
  const answered = job.findings.filter((f) => f.answer);
  return (
    <Drawer open={open} onClose={onClose} title={`Findings in ${job.title}`} size={520}>
      {job.findings.length === 0 && <p>Nothing is found wrong or doubtful.</p>}
      <div className="stack">
        {unanswered.map((f) => (
          <One key={keyOf(f)} job={job} finding={f} onShow={() => show(f)}>
            {f.severity !== 'danger' && f.severity !== 'note' && (
              <Button size="small" onClick={() => ask(f)}>
                It may stand…
              </Button>
            )}
          </One>
        ))}
        {answered.length > 0 && <h3>Known, and may stand</h3>}
        {answered.map((f) => (
          <One key={keyOf(f)} job={job} finding={f} onShow={() => show(f)}>
            <div>
              “{f.answer?.reason}” <span className="quiet">{f.answer?.who}</span>{' '}
              <Button size="small" onClick={() => say(f, '')}>
                Take that back
              </Button>
            </div>
          </One>
        ))}
      </div>
      {answering && (
        <ReasonDialog
          title="Why may it stand?"
          why={answering.text}
          onClose={() => ask(undefined)}
          onReason={(reason) => {
            say(answering, reason);
            ask(undefined);
          }}
        />
      )}
    </Drawer>
  );
}

const keyOf = (f: Finding) => `${f.code} ${f.side} ${f.subject} ${f.text}`;

interface OneProps {
  job: JobView;
  finding: Finding;
  onShow: () => void;
  children: ReactNode;
}

function One({ job, finding: f, onShow, children }: OneProps) {
  return (
    <div>
      <div className="bar" style={{ gap: 6 }}>
        <SeverityMark severity={f.severity} />
        <strong>{severityWord[f.severity]}</strong>
        <span className="quiet">{sideName(job, f.side)}</span>
        <span className="grow" />
        {f.stage === 'work' ? (
          <button className="plain" onClick={onShow}>
            Work
          </button>
        ) : (
          f.subject &&
          f.code !== 'unverified-feed' && (
            <button className="plain mono" onClick={onShow}>
              {f.name ?? f.subject}
            </button>
          )
        )}
      </div>
      <div>{f.text}</div>
      {f.remedy && <div className="quiet">{f.remedy}</div>}
      {children}
    </div>
  );
}
