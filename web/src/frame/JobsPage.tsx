import './jobs.css';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { explain } from '../api/client';
import { useArchive } from '../api/handover';
import { useCreateJob, useDeleted, useJobs, useKinds, useRestoreJob } from '../api/hooks';
import type { JobLine } from '../api/types.gen';
import { DemoLine, FirstSteps } from './FirstSteps';
import { FileButton } from './FileButton';
import { JobForm } from './JobForm';
import { JobRow } from './JobRow';
import { useTitle } from './useTitle';
import { When } from './When';

/** The jobs, each in one line: where it stands, and what is next. */
export function JobsPage() {
  const jobs = useJobs();
  useTitle('Jobs');
  const kinds = useKinds();
  const [making, setMaking] = useState(false);
  const open = useCreateJob();
  const navigate = useNavigate();
  const kindName = (id: string) => kinds.data?.kinds.find((k) => k.id === id)?.name ?? id;
  return (
    <>
      <header className="head">
        <span className="brand">Draxel</span>
        <span className="quiet">two pinouts in, a proven harness out</span>
      </header>
      <main className="page jobspage stack">
        <div className="bar">
          <h1 className="grow">Jobs</h1>
          <FileButton
            loading={open.isPending}
            label="job file"
            accept=".json"
            onFile={(chosen) =>
              open.mutate(chosen, { onSuccess: (done) => void navigate(`/jobs/${done.job}`) })
            }
          >
            Open a job file
          </FileButton>
          <Button type="primary" onClick={() => setMaking(true)}>
            New job
          </Button>
        </div>
        {(jobs.error ?? open.error) && (
          <div className="problem" role="alert">
            {explain(jobs.error ?? open.error)}
          </div>
        )}
        {jobs.data?.jobs.length === 0 && (
          <FirstSteps onBegin={() => setMaking(true)} demo={!!jobs.data.demo} />
        )}
        {jobs.data && jobs.data.jobs.length > 0 && <JobList jobs={jobs.data.jobs} kindName={kindName} />}
        {jobs.data?.jobs.some((j) => j.demo) && jobs.data.demo && <DemoLine />}
        <Deleted />
      </main>
      {making && <JobForm onClose={() => setMaking(false)} />}
    </>
  );
}

/** The list with its filters: words, and those that are put away. */
function JobList({ jobs, kindName }: { jobs: JobLine[]; kindName: (id: string) => string }) {
  const [address, setAddress] = useSearchParams();
  const archive = useArchive();
  const words = address.get('find') ?? '';
  const away = address.get('show') === 'away';
  const filter = (find: string, show: boolean) =>
    setAddress({ ...(find ? { find } : {}), ...(show ? { show: 'away' } : {}) }, { replace: true });
  const gone = jobs.filter((j) => j.archived).length;
  const rows = jobs.filter((j) => {
    const text = [j.title, j.donor, j.chassis, kindName(j.kind)].join(' ').toLowerCase();
    return (
      !!j.archived === away &&
      words
        .toLowerCase()
        .split(/\s+/)
        .every((w) => text.includes(w))
    );
  });
  return (
    <>
      <div className="bar">
        <Input
          size="small"
          style={{ width: 280 }}
          aria-label="find a job"
          placeholder="find: title, donor, chassis, kind"
          value={words}
          onChange={(e) => filter(e.target.value, away)}
          allowClear
        />
        <button
          className={`plain${away ? '' : ' on'}`}
          aria-pressed={!away}
          onClick={() => filter(words, false)}
        >
          worked at {jobs.length - gone}
        </button>
        <button
          className={`plain${away ? ' on' : ''}`}
          aria-pressed={away}
          onClick={() => filter(words, true)}
        >
          put away {gone}
        </button>
        {archive.isError && <span className="warned">{explain(archive.error)}</span>}
      </div>
      <table className="table jobs" aria-label="jobs" data-testid="jobs">
        <colgroup>
          {['24%', undefined, 132, 64, 100, 104, 52, 150, 56].map((width, i) => (
            <col key={i} style={width === undefined ? {} : { width }} />
          ))}
        </colgroup>
        <thead>
          <tr>
            <th>job</th>
            <th>next, and what it waits for</th>
            <th>steps</th>
            <th className="right">left</th>
            <th>ready</th>
            <th>findings</th>
            <th className="right">late</th>
            <th>last</th>
            <th>list</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((j) => (
            <JobRow
              key={j.id}
              job={j}
              kind={kindName(j.kind)}
              onArchive={() => archive.mutate({ job: j.id, seen: j.revision, archived: !j.archived })}
            />
          ))}
        </tbody>
      </table>
      {rows.length === 0 && (
        <p className="quiet">
          {words ? 'No job has these words.' : away ? 'None is put away.' : 'All are put away.'}
        </p>
      )}
    </>
  );
}

function Deleted() {
  const deleted = useDeleted();
  const restore = useRestoreJob();
  if (!deleted.data || deleted.data.jobs.length === 0) {
    return null;
  }
  return (
    <section className="stack" aria-label="deleted jobs">
      <h2>Deleted</h2>
      <div className="sheet joblist" data-testid="deleted">
        {deleted.data.jobs.map((j) => (
          <div key={j.id}>
            <strong>{j.title}</strong>
            <span>
              {j.donor} → {j.chassis}
            </span>
            <span className="quiet">
              can be brought back until <When ms={j.until ?? 0} day />
            </span>
            <Button size="small" onClick={() => restore.mutate(j.id)}>
              Bring back
            </Button>
          </div>
        ))}
      </div>
    </section>
  );
}
