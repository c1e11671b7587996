import { useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { explain, whoIsWorking } from '../api/client';
import { useJob, useJobBegun, useLiveJob } from '../api/hooks';
import type { JobView } from '../api/types.gen';
import { ctrlName } from '../keys/keymap';
import { useChord, useKey } from '../keys/useKey';
import { stageName } from '../work/words';
import { changeWord } from './changes.gen';
import { later, useLater } from './later';
import { notice } from './notice';
import { Opened } from './Opened';
import { severityWord, SeverityMark } from './SeverityMark';
import { useStages } from './stages';
import { heldUp, Unsent } from './Unsent';
import { useTakeBack } from './useTakeBack';
import { useJobTitle } from './useTitle';
import { Who } from './Who';

const JobForm = later(async () => (await import('./JobForm')).JobForm);
const Findings = later(async () => (await import('./Findings')).Findings);
const GoTo = later(async () => (await import('./GoTo')).GoTo);
const KeysDialog = later(async () => (await import('../keys/KeysDialog')).KeysDialog);

const severities = ['danger', 'wrong', 'check'] as const;

/** The job a page below the frame works on. */
export function useJobID(): string {
  return useParams().job ?? '';
}

/** Puts the focus into the page, past what stands above and beside it. */
function toPage() {
  const page = document.querySelector('main');
  page?.setAttribute('tabindex', '-1');
  page?.focus();
}

export function Frame() {
  const id = useJobID();
  const whole = useJob(id);
  const begun = useJobBegun(id);
  const job = whole.data ?? begun.data;
  const stages = useStages();
  useLater();
  useJobTitle(job?.title);
  useLiveJob(id, (e) => notice.warning(e.message + heldUp(e), 8));
  if (whole.isError) {
    return (
      <div className="empty">
        <h1>This job cannot be shown</h1>
        <p>{explain(whole.error)}</p>
        <Link to="/">All jobs</Link>
      </div>
    );
  }
  if (!job) {
    return null;
  }
  return (
    <div className="frame">
      <button className="skip" onClick={toPage}>
        Skip to the page
      </button>
      <Head job={job} />
      <nav className="rail" aria-label="stages">
        <NavLink to="." end title="where the job stands, and what is next">
          Front
        </NavLink>
        {stages.map((s) => (
          <Stage
            key={s.name}
            to={s.name}
            what={s.counts}
            word={stageName(s.name)}
            open={job.open[s.name]}
            aside={!job.kindInfo.stages.includes(s.name)}
          />
        ))}
        <div className="railwork">
          <Stage
            to="work"
            word="Work"
            what="steps of all stages, in one order"
            open={job.open.work}
            aside={false}
          />
        </div>
      </nav>
      <Outlet />
    </div>
  );
}

interface StageProps {
  to: string;
  word: string;
  open: number;
  what: string;
  /** This kind of job can do without it. */
  aside: boolean;
}

function Stage({ to, word, open, what, aside }: StageProps) {
  return (
    <NavLink to={to} title={`${open} ${what}${aside ? '; this kind of job can do without' : ''}`}>
      {word} <span className="count">{open > 0 ? open : ''}</span>
    </NavLink>
  );
}

function Head({ job }: { job: JobView }) {
  const [shown, show] = useState<'keys' | 'findings' | 'job' | 'goto' | undefined>();
  const { takeBack, doAgain } = useTakeBack(job.id);
  const navigate = useNavigate();
  const view = useLocation().pathname.split('/')[3] ?? '';
  const own = useStages().find((s) => s.name === view)?.keys ?? [];
  const close = () => show(undefined);
  useKey('u', () => takeBack()); // also before the reply that says that there is something to take back
  useChord('mod+z', () => takeBack());
  useChord('mod+shift+z,mod+y', doAgain);
  useChord('mod+k', () => show('goto'));
  useKey('?', () => show('keys'));
  useKey('f', () => show('findings'));
  return (
    <header className="head">
      <Link className="brand" to="/">
        Draxel
      </Link>
      <div className="where grow">
        <button className="plain" onClick={() => show('job')} title="title, kind, donor, chassis; job file">
          <strong>{job.title}</strong>
        </button>
        <span className="quiet">
          {[job.donor, job.chassis].filter(Boolean).join(' → ')}
          {(job.donor || job.chassis) && ' · '}
          {job.kindInfo.name.toLowerCase()}
        </span>
      </div>
      <Unsent job={job.id} />
      <button
        className="plain"
        onClick={() => show('findings')}
        title="what is wrong or doubtful (F)"
        data-testid="findings"
      >
        <kbd>F</kbd>
        {severities.map((s) => (
          <span key={s} style={{ marginLeft: 12 }}>
            <SeverityMark severity={s} /> <strong>{job.begun ? '…' : (job.severity[s] ?? 0)}</strong>{' '}
            {severityWord[s]}
          </span>
        ))}
      </button>
      <button
        className="plain"
        onClick={() => takeBack()}
        disabled={!job.undo}
        title={
          job.undo
            ? `take back: ${changeWord[job.undo] ?? job.undo}${job.undoOf === (whoIsWorking() || 'somebody') ? '' : `, by ${job.undoOf}`}`
            : 'nothing to undo'
        }
      >
        <kbd>U</kbd> undo
      </button>
      <button
        className="plain"
        onClick={doAgain}
        disabled={!job.redo}
        title={job.redo ? `do again what was taken back (${ctrlName}+Shift+Z)` : 'nothing was taken back'}
      >
        redo
      </button>
      <button
        className="plain"
        onClick={() => show('goto')}
        title={`go to anything by its words (${ctrlName}+K)`}
      >
        go to
      </button>
      <button className="plain" onClick={() => show('keys')}>
        <kbd>?</kbd> keys
      </button>
      <Who />
      <Opened open={shown === 'keys'}>
        <KeysDialog view={view} own={own} open={shown === 'keys'} onClose={close} />
      </Opened>
      <Opened open={shown === 'findings'}>
        <Findings job={job} open={shown === 'findings'} onClose={close} onJob={() => show('job')} />
      </Opened>
      <Opened open={shown === 'goto'}>
        <GoTo
          job={job.id}
          open={shown === 'goto'}
          onClose={close}
          commands={[
            { name: 'Findings', go: () => show('findings') },
            { name: 'Keys', go: () => show('keys') },
            { name: 'History, title, job file', go: () => show('job') },
            { name: 'Undo', go: () => takeBack() },
            { name: 'Redo', go: doAgain },
            { name: 'All jobs', go: () => void navigate('/') },
          ]}
        />
      </Opened>
      {shown === 'job' && <JobForm job={job} onClose={close} />}
    </header>
  );
}
