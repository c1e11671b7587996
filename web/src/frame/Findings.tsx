import { App, Button, Drawer } from 'antd';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { explain } from '../api/client';
import { useAnswer } from '../api/work';
import { ReasonDialog } from '../work/ReasonDialog';
import type { Finding, JobView } from '../api/types.gen';
import { severityWord, SeverityMark } from './SeverityMark';

const sideName = (job: JobView, side: string | undefined) =>
  side === 'from' ? job.sides.from : side === 'to' ? job.sides.to : '';

/** Where in Gather a finding is seen to, by its code; the rest is about the lists. */
const gatherPart: Record<string, string> = {
  'reading-overturns': 'readings',
  'reading-contradicts': 'readings',
  'reading-through-load': 'readings',
  'trace-lost': 'readings',
  'ends-unseen': 'readings',
  'to-replace': 'connectors',
  'did-not-work': 'before',
  'unplugged-wrongly': 'before',
  'unit-not-read': 'vehicles',
  'programming-open': 'vehicles',
  'no-programmer': 'vehicles',
  'no-immobiliser-plan': 'vehicles',
  'firing-order': 'vehicles',
  'cylinder-count': 'vehicles',
  'coil-pair': 'vehicles',
  'mixed-sources': 'vehicles',
  'origin-unknown': 'vehicles',
  'origins-meet': 'vehicles',
  'tables-differ': 'tables',
};

/** Where in Pin a finding is seen to. */
function pinPart(code: string, subject: string): string {
  if (code.startsWith('second-check')) {
    return '?part=check';
  }
  if (code === 'halves-do-not-meet') {
    return `?part=faces&connector=${encodeURIComponent(subject)}`;
  }
  return ['re-crimp', 'pigtail', 'exchange-to-verify', 'exchange-lost'].includes(code) ? '?part=parts' : '';
}

/** What a finding of Thin is about, by its code. */
function thinKind(code: string): string {
  if (['part-incomplete', 'suppressor', 'rides-along', 'bus-end', 'needed-to-start'].includes(code)) {
    return 'module';
  }
  if (['passes-through', 'factory-rejoined', 'shared-splice'].includes(code)) {
    return 'joint';
  }
  return ['carries-kept', 'pair-contested', 'left-alone'].includes(code) ? 'connector' : 'wire';
}

const reachPart: Record<string, string> = {
  'bad-path': 'map',
  'path-twice': 'map',
  'station-twice': 'map',
  'station-alone': 'map',
  provisional: 'map',
  unplaced: 'places',
  'place-gone': 'places',
  'joints-crowd': 'joints',
  'keep-apart': 'bundles',
  'raw-edge': 'bundles',
  tied: 'bundles',
  'parts-nothing': 'bundles',
  'plug-full': 'bundles',
  'not-parted': 'bundles',
  'steps-held': 'work',
  'done-unwanted': 'work',
  'tick-lost': 'work',
};

/** Where in Reach a finding is seen to: a part of it, or the wire that it is about. */
function reachPlace(code: string, subject: string): string {
  const part = reachPart[code];
  return part ? `?part=${part}` : `?part=cuts&only=all&wire=${encodeURIComponent(subject)}`;
}

/** Where in Feed a finding is seen to: the line of a list, the fuses and grounds, or the tree. */
function feedPlace(code: string, subject: string): string {
  if (code === 'feed-cannot-be') {
    return `?part=sources&list=${encodeURIComponent(subject.split(',')[0] ?? '')}`;
  }
  if (code === 'fuse-none' || code === 'fed-through-resistance' || code === 'fuse-gone') {
    return '?part=block';
  }
  if (
    code.startsWith('fuse-') ||
    code.startsWith('ground-') ||
    code.startsWith('sensor-') ||
    code === 'shield-both-ends' ||
    code === 'contact-thin' ||
    ['unprotected', 'not-selective', 'two-feeds'].includes(code)
  ) {
    return '?part=fuses';
  }
  const key = code === 'stays-awake' ? 'off' : code === 'feed-drops-in-crank' ? 'crank' : 'running';
  return `?part=live&key=${key}&sel=${encodeURIComponent(subject)}`;
}

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
  const show = (f: Finding) => {
    onClose();
    if (f.code === 'not-one-scheme') {
      onJob();
      return;
    }
    const subject = f.subject ?? '';
    const place =
      f.stage === 'gather'
        ? `gather?part=${gatherPart[f.code] ?? 'lists'}`
        : f.stage === 'thin'
          ? `thin?sel=${encodeURIComponent(`${thinKind(f.code)}:${subject}`)}`
          : f.stage === 'pin'
            ? `pin${pinPart(f.code, subject)}`
            : f.stage === 'reach'
              ? `reach${reachPlace(f.code, subject)}`
              : f.stage === 'feed'
                ? `feed${feedPlace(f.code, subject)}`
                : f.stage === 'join' && f.subject
                  ? `join?sel=${encodeURIComponent(f.subject)}`
                  : f.stage === 'work' || f.stage === 'join'
                    ? `work${subject ? `?own=${encodeURIComponent(subject)}` : ''}`
                    : `match?row=${encodeURIComponent(`${f.side ?? 'from'} ${subject}`)}`;
    void navigate(`/jobs/${job.id}/${place}`);
  };
  const [answering, ask] = useState<Finding | undefined>();
  const answer = useAnswer(job.id);
  const { message } = App.useApp();
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
      { onError: (e) => void message.warning(explain(e)) },
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
