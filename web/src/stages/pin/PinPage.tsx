import './pin.css';
import { Button } from 'antd';
import { Link, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { fileAddress, usePin } from '../../api/hooks';
import type { PinView, SheetStep } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { SeverityMark } from '../../frame/SeverityMark';
import { VirtualRows } from '../../frame/VirtualRows';
import { refName } from '../../harness/cavity';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';
import { useKey } from '../../keys/useKey';
import { StepFaces } from './StepFaces';

export function PinPage() {
  const job = useJobID();
  const pin = usePin(job);
  if (pin.isError) {
    return <main className="page problem">{explain(pin.error)}</main>;
  }
  if (!pin.data) {
    return <main className="page" aria-busy="true" />;
  }
  const view = pin.data;
  if (view.steps.length === 0) {
    return (
      <main className="page">
        <div className="empty">
          <h1>{view.moves ? 'No steps yet' : 'This kind of job moves no terminals'}</h1>
          {view.moves ? (
            <p>
              {view.totals.decided === 0
                ? 'Nothing is decided. The sheet follows from what you accept in Match.'
                : view.line}
            </p>
          ) : (
            <p>
              Its matched wires are joined onto the other harness. Draxel plans terminal moves so far, and no
              joints: use the crosswalk in Match, and the counts there, as your list. What Thin takes out of
              connectors that stay would stand here.
            </p>
          )}
          <Link to="../match">To Match</Link>
        </div>
      </main>
    );
  }
  return <Sheet job={job} view={view} />;
}

const kindWord: Record<SheetStep['kind'], string> = {
  move: 'move',
  pull: 'pull, waits',
  seat: 'seat',
  out: 'goes',
  hold: 'hold',
  new: 'new wire',
  plug: 'plug',
};

function Sheet({ job, view }: { job: string; view: PinView }) {
  const [address, setAddress] = useSearchParams();
  const at = Math.min(view.steps.length - 1, Math.max(0, Number(address.get('step') ?? '1') - 1));
  const go = (to: number) =>
    setAddress({ step: String(Math.max(0, Math.min(view.steps.length - 1, to)) + 1) }, { replace: true });
  useKey('up', () => go(at - 1));
  useKey('down,space', () => go(at + 1));
  useKey('home', () => go(0));
  useKey('end', () => go(view.steps.length - 1));
  const step = view.steps[at];
  return (
    <main className="pinpage">
      <h1 className="unseen">Pin: the re-pin sheet</h1>
      <div className="pintop">
        <div>
          <div className={`proof${view.proof.reached ? '' : ' bad'}`} data-testid="proof">
            <span aria-hidden="true">{view.proof.reached ? '✓' : '✕'}</span> <span>{view.line}</span>
          </div>
          {step && <Selected step={step} number={at + 1} of={view.steps.length} />}
          {step && <StepFaces view={view} step={step} />}
        </div>
        <div>
          <div className="bar" style={{ justifyContent: 'flex-end' }}>
            <Button href={fileAddress(job, 'pin/sheet.csv')}>CSV</Button>
            <Button type="primary" href={fileAddress(job, 'pin/sheet.pdf')}>
              Sheet for the bench (PDF)
            </Button>
          </div>
          {view.open && (
            <div className="problem" style={{ marginTop: 8 }}>
              {view.open}
              {view.moves && (
                <>
                  {' '}
                  <Link to="../match?open=1">Decide them</Link>; what holds a cavity is in the findings (F).
                </>
              )}
            </div>
          )}
          {view.findings
            .filter((f) => f.code === 'terminal-system')
            .map((f) => (
              <div key={f.text} style={{ marginTop: 6, fontSize: 13 }}>
                <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
              </div>
            ))}
          <div className="quiet" style={{ marginTop: 8, fontSize: 13 }}>
            Battery negative off before the first terminal is pulled; the unit is unplugged and out.
          </div>
        </div>
      </div>
      <VirtualRows
        rows={view.steps}
        keyOf={(s) => s.id}
        estimate={34}
        label="re-pin sheet"
        className="steps"
        head={stepHead}
        at={at}
        testID="steps"
        draw={(s, i) => <StepRow step={s} number={i + 1} on={i === at} onGo={() => go(i)} />}
      />
    </main>
  );
}

function Selected({ step, number, of }: { step: SheetStep; number: number; of: number }) {
  return (
    <div>
      <div className="quiet">
        step {number} of {of}
        {step.hand && ` · in hand: ${step.hand}`}
      </div>
      <div className="bigstep" data-testid="step-text">
        {step.text}
      </div>
      {step.wire.ref.cavity !== '' && (
        <div className="bar" style={{ gap: 8 }}>
          <WireSwatch colour={step.wire.colour} bare="right" />
          <span className="mono">
            {colourName(step.wire.colour)} {step.wire.circuit && `· ${step.wire.circuit}`}
          </span>
          <span>{step.wire.function}</span>
        </div>
      )}
      <div className="quiet">{step.why}</div>
    </div>
  );
}

const stepHead = (
  <div className="steprow headrow" role="row" aria-rowindex={1}>
    {['step', 'from → to', 'what', 'do', 'wire', 'function'].map((h) => (
      <span key={h} role="columnheader">
        {h}
      </span>
    ))}
  </div>
);

function StepRow({
  step,
  number,
  on,
  onGo,
}: {
  step: SheetStep;
  number: number;
  on: boolean;
  onGo: () => void;
}) {
  const from = refName(step.from);
  const to = refName(step.to);
  return (
    <div
      className={`steprow${on ? ' selected' : ''}`}
      role="row"
      aria-rowindex={number + 1}
      aria-selected={on}
      onClick={onGo}
    >
      <span role="gridcell" className="mono">
        {number}
      </span>
      <span role="gridcell" className="cavities">
        {from} → {to || 'out'}
      </span>
      <span role="gridcell">{kindWord[step.kind]}</span>
      <span role="gridcell">
        {step.text} <span className="quiet">{step.why}</span>
      </span>
      <span role="gridcell" style={{ display: 'flex', gap: 6, alignItems: 'center' }}>
        {step.wire.ref.cavity !== '' && <WireSwatch colour={step.wire.colour} bare="right" />}
        <span className="mono">{step.wire.ref.cavity !== '' && colourName(step.wire.colour)}</span>
      </span>
      <span role="gridcell">{step.wire.function}</span>
    </div>
  );
}
