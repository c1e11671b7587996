import { Button } from 'antd';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { explain } from '../api/client';
import { useCreateJob, useDeleted, useJobs, useKinds, useRestoreJob } from '../api/hooks';
import { JobForm } from './JobForm';

const day = (ms: number) => new Date(ms).toISOString().slice(0, 10);

export function JobsPage() {
  const jobs = useJobs();
  const kinds = useKinds();
  const [making, setMaking] = useState(false);
  const open = useCreateJob();
  const deleted = useDeleted();
  const restore = useRestoreJob();
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const kindName = (id: string) => kinds.data?.kinds.find((k) => k.id === id)?.name ?? id;
  return (
    <>
      <header className="head">
        <span className="brand">Draxel</span>
        <span className="quiet">two pinouts in, a proven re-pin sheet out</span>
      </header>
      <main className="page narrow stack" style={{ margin: '0 auto' }}>
        <div className="bar">
          <h1 className="grow">Jobs</h1>
          <Button onClick={() => file.current?.click()} loading={open.isPending}>
            Open a job file
          </Button>
          <Button type="primary" onClick={() => setMaking(true)}>
            New job
          </Button>
          <input
            ref={file}
            type="file"
            accept=".json"
            hidden
            aria-label="job file"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = '';
              if (chosen) {
                open.mutate(chosen, { onSuccess: (done) => void navigate(`/jobs/${done.job}`) });
              }
            }}
          />
        </div>
        {(jobs.error ?? open.error) && (
          <div className="problem" role="alert">
            {explain(jobs.error ?? open.error)}
          </div>
        )}
        {jobs.data?.jobs.length === 0 && (
          <div className="empty">
            <h2>No jobs yet</h2>
            <p>
              Make one, then bring the pinout of the harness and that of the unit. To look round first, start
              Draxel with <span className="mono">draxel serve --demo</span>.
            </p>
          </div>
        )}
        {jobs.data && jobs.data.jobs.length > 0 && (
          <div className="sheet joblist" data-testid="jobs">
            {jobs.data.jobs.map((j) => (
              <Link key={j.id} to={`/jobs/${j.id}`}>
                <strong>{j.title}</strong>
                <span>
                  {j.donor} → {j.chassis}
                </span>
                <span className="quiet">{kindName(j.kind)}</span>
                <span className="quiet">changed {day(j.changed)}</span>
              </Link>
            ))}
          </div>
        )}
        {deleted.data && deleted.data.jobs.length > 0 && (
          <section className="stack" aria-label="deleted jobs">
            <h2>Deleted</h2>
            <div className="sheet joblist" data-testid="deleted">
              {deleted.data.jobs.map((j) => (
                <div key={j.id}>
                  <strong>{j.title}</strong>
                  <span>
                    {j.donor} → {j.chassis}
                  </span>
                  <span className="quiet">can be brought back until {day(j.until ?? 0)}</span>
                  <Button size="small" onClick={() => restore.mutate(j.id)}>
                    Bring back
                  </Button>
                </div>
              ))}
            </div>
          </section>
        )}
      </main>
      {making && <JobForm onClose={() => setMaking(false)} />}
    </>
  );
}
