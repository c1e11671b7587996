import { App, Button } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { explain, ProblemError } from '../../api/client';
import { useInTurn } from '../../api/inTurn';
import { useTick, useWork } from '../../api/thin';
import type { WorkStep, WorkView } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { VirtualRows } from '../../frame/VirtualRows';
import { useKey } from '../../keys/useKey';
import { BenchDialog } from './BenchDialog';
import { ReasonDialog } from './ReasonDialog';

const kindWord: Record<WorkStep['kind'], string> = {
  caution: 'caution',
  gate: 'gate',
  tie: 'tie',
  trim: 'trim legs',
  through: 'one wire',
  remove: 'take apart',
  rejoin: 'join',
  extract: 'extract',
  seal: 'cut, seal',
  'take-off': 'take off',
  out: 'falls out',
  nicks: 'nicks',
  mend: 'mend',
};

/** The work in its order, each step ticked with who and when. */
export function WorkPage({ job, onWire }: { job: string; onWire: (id: string) => void }) {
  const work = useWork(job);
  if (work.isError) {
    return <div className="problem">{explain(work.error)}</div>;
  }
  return work.data ? <Work job={job} view={work.data} onWire={onWire} /> : <div aria-busy="true" />;
}

function Work({ job, view, onWire }: { job: string; view: WorkView; onWire: (id: string) => void }) {
  const [at, setAt] = useState(() => view.steps.findIndex((s) => !s.done));
  const [gate, askGate] = useState<{ step: WorkStep; why: string } | undefined>();
  const [settings, showSettings] = useState(false);
  const go = useNavigate();
  const tick = useTick(job);
  const { message } = App.useApp();
  const inTurn = useInTurn(view.revision);
  const send = (step: WorkStep, done: boolean, more?: { outcome?: string; reason?: string }) => {
    const here = view.steps.indexOf(step);
    if (done && !more?.outcome) {
      setAt(Math.min(view.steps.length - 1, here + 1)); // at once: the next key means the next step
    }
    inTurn(
      step.id,
      (seen) => tick.mutateAsync({ seen, steps: [step.id], done, ...more }),
      (e) => {
        setAt(here);
        if (e instanceof ProblemError && e.problem.code === 'gate-open') {
          askGate({ step, why: e.message });
        } else {
          void message.warning(explain(e));
        }
      },
    );
  };
  const step = view.steps[at];
  useKey('down', () => setAt(Math.min(view.steps.length - 1, at + 1)));
  useKey('up', () => setAt(Math.max(0, at - 1)));
  useKey('b', () => void go('../bench?stage=thin'));
  useKey('space', () => step && send(step, !step.done));
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
          <span aria-hidden="true">{view.proof.reached ? '✓' : '✕'}</span> {view.line}
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
      <VirtualRows
        rows={view.steps}
        keyOf={(s) => s.id}
        estimate={36}
        label="work"
        className="wirerows"
        at={at}
        testID="work"
        draw={(s, i) => (
          <StepRow
            step={s}
            number={i + 1}
            on={i === at}
            system={s.system !== view.steps[i - 1]?.system ? s.system : undefined}
            onGo={() => setAt(i)}
            onTick={() => send(s, !s.done)}
            onStuck={() => send(s, true, { outcome: 'stuck' })}
            onWire={onWire}
          />
        )}
      />
      {gate && (
        <ReasonDialog
          title="Pass the gate all the same?"
          why={gate.why}
          onClose={() => askGate(undefined)}
          onReason={(reason) => {
            askGate(undefined);
            send(gate.step, true, { reason });
          }}
        />
      )}
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

interface RowProps {
  step: WorkStep;
  number: number;
  on: boolean;
  system: string | undefined;
  onGo: () => void;
  onTick: () => void;
  onStuck: () => void;
  onWire: (id: string) => void;
}

const day = (ms: number) => new Date(ms).toISOString().slice(0, 10);

function StepRow({ step: s, number, on, system, onGo, onTick, onStuck, onWire }: RowProps) {
  return (
    <div role="presentation">
      {system && <div className="worksystem">{system}</div>}
      <div
        className={`workrow${on ? ' selected' : ''}${s.done ? ' done' : ''}`}
        role="row"
        aria-rowindex={number}
        aria-selected={on}
        onClick={onGo}
      >
        <span role="gridcell">
          <input
            type="checkbox"
            checked={s.done}
            onChange={(e) => {
              e.currentTarget.blur(); // the keys go on from the row
              onTick();
            }}
            aria-label={`step ${number}: ${s.text}`}
          />
        </span>
        <span role="gridcell" className="mono quiet">
          {number}
        </span>
        <span role="gridcell">{kindWord[s.kind]}</span>
        <span role="gridcell">
          {s.text} {s.why && <span className="quiet">{s.why}</span>}
          {on && s.missing && s.missing.length > 0 && (
            <ul className="missing">
              {s.missing.map((m) => (
                <li key={m}>{m}</li>
              ))}
            </ul>
          )}
          {on && !s.done && s.blocked && <div className="quiet">First: {s.blocked}</div>}
          {on && (
            <div className="bar" style={{ gap: 6 }}>
              {s.wires?.slice(0, 4).map((w) => (
                <Button key={w} size="small" onClick={() => onWire(w)}>
                  show {w}
                </Button>
              ))}
              {s.kind === 'out' && !s.done && (
                <Button size="small" onClick={onStuck}>
                  It does not come out
                </Button>
              )}
            </div>
          )}
        </span>
        <span role="gridcell" className="quiet">
          {s.done ? `${s.who ?? ''} ${s.when ? day(s.when) : ''}` : s.noReturn ? 'no way back' : ''}
        </span>
      </div>
    </div>
  );
}
