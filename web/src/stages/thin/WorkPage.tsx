import { Button } from 'antd';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { explain } from '../../api/client';
import { useWork } from '../../api/thin';
import type { WorkView } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { useKey } from '../../keys/useKey';
import { WorkRows } from '../../work/WorkRows';
import { BenchDialog } from './BenchDialog';

/** Thin's part of the work in its order, each step ticked with who and when. */
export function WorkPage({ job, onWire }: { job: string; onWire: (id: string) => void }) {
  const work = useWork(job);
  if (work.isError) {
    return <div className="problem">{explain(work.error)}</div>;
  }
  return work.data ? <Work job={job} view={work.data} onWire={onWire} /> : <div aria-busy="true" />;
}

function Work({ job, view, onWire }: { job: string; view: WorkView; onWire: (id: string) => void }) {
  const [settings, showSettings] = useState(false);
  const go = useNavigate();
  useKey('b', () => void go('../bench?stage=thin'));
  if (view.steps.length === 0) {
    return (
      <div className="empty">
        <h1>Nothing goes yet</h1>
        <p>
          Let a system, a module, a connector or a wire go, and the work that follows from it stands here.
        </p>
      </div>
    );
  }
  return (
    <>
      <div className="bar wirefilter">
        <span className="grow" data-testid="proof">
          <span aria-hidden="true">{view.proof.reached ? '✓' : '✕'}</span> {view.line}{' '}
          <Link to="../work">All stages in one list</Link>
        </span>
        <Button size="small" type="primary" onClick={() => void go('../bench?stage=thin')}>
          Bench view <kbd>B</kbd>
        </Button>
        <Button size="small" onClick={() => showSettings(true)}>
          How we work…
        </Button>
      </div>
      {view.findings.map((f) => (
        <div key={f.text} className="inreasons">
          <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
        </div>
      ))}
      <WorkRows job={job} revision={view.revision} steps={view.steps} onWire={onWire} />
      {settings && (
        <BenchDialog
          job={job}
          bench={view.bench}
          revision={view.revision}
          onClose={() => showSettings(false)}
        />
      )}
    </>
  );
}
