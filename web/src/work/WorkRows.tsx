import './work.css';
import { Button } from 'antd';
import { useState } from 'react';
import { explain, ProblemError } from '../api/client';
import { notice } from '../frame/notice';
import { localDay } from '../frame/When';
import { useKeyed } from '../outbox/useOutbox';
import { useLength } from '../api/reach';
import type { WorkStep } from '../api/types.gen';
import { useTick } from '../api/work';
import { VirtualRows } from '../frame/VirtualRows';
import { useCursor } from '../keys/useCursor';
import { useKey } from '../keys/useKey';
import { ReasonDialog } from './ReasonDialog';
import { Measured } from './Measured';
import { kindWord, stageName } from './words';

interface Props {
  job: string;
  revision: number;
  steps: readonly WorkStep[];
  /** Steps of several stages: each says whose it is. */
  mixed?: boolean;
  /** The step that is selected, where the page around wants to know. */
  selected?: string;
  onSelect?: (id: string) => void;
  onWire?: (id: string) => void;
}

/** Steps in their order, each ticked with who and when: of one stage or of all of them. */
export function WorkRows({ job, revision, steps, mixed, selected, onSelect, onWire }: Props) {
  const [own, setOwn] = useState(() => (steps.find((s) => !s.done) ?? steps[0])?.id ?? '');
  const [gate, askGate] = useState<{ step: WorkStep; why: string } | undefined>();
  const tick = useTick(job);
  const length = useLength(job);
  const keyed = useKeyed(revision);
  const id = selected ?? own;
  const at = Math.max(
    0,
    steps.findIndex((s) => s.id === id),
  );
  const go = (i: number) => {
    const s = steps[Math.max(0, Math.min(steps.length - 1, i))];
    if (s) {
      setOwn(s.id);
      onSelect?.(s.id);
    }
  };
  const send = (step: WorkStep, done: boolean, more?: { outcome?: string; reason?: string }) => {
    const here = steps.indexOf(step);
    if (done && !more?.outcome) {
      go(here + 1); // at once: the next key means the next step
    }
    keyed(
      step.id,
      (seen) => tick.mutateAsync({ ...seen, steps: [step.id], done, ...more }),
      (e) => {
        go(here);
        if (e instanceof ProblemError && e.problem.code === 'gate-open') {
          askGate({ step, why: e.message });
        } else {
          notice.warning(explain(e));
        }
      },
    );
  };
  const measured = (wire: string, had: number) =>
    keyed(
      wire,
      (seen) => length.mutateAsync({ ...seen, wire, had }),
      (e) => notice.warning(explain(e)),
    );
  const step = steps[at];
  useCursor(at, steps.length, go);
  useKey('space', () => step && send(step, !step.done));
  return (
    <>
      <VirtualRows
        rows={steps}
        keyOf={(s) => s.id}
        estimate={36}
        label="work"
        className="worksteps"
        at={at}
        activeID={step ? `step-${step.id}` : undefined}
        testID="work"
        draw={(s, i) => (
          <Row
            step={s}
            number={i + 1}
            on={i === at}
            mixed={mixed === true}
            head={heading(s, steps[i - 1], mixed === true)}
            onGo={() => go(i)}
            onTick={() => send(s, !s.done)}
            onStuck={() => send(s, true, { outcome: 'stuck' })}
            onMeasured={(had) => measured(s.measure ?? '', had)}
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
    </>
  );
}

/** Of one stage a heading stands where another system begins. */
function heading(s: WorkStep, before: WorkStep | undefined, mixed: boolean): string | undefined {
  return !mixed && s.system && s.system !== before?.system ? s.system : undefined;
}

interface RowProps {
  step: WorkStep;
  number: number;
  on: boolean;
  mixed: boolean;
  head: string | undefined;
  onGo: () => void;
  onTick: () => void;
  onStuck: () => void;
  onMeasured: (mm: number) => void;
  onWire: ((id: string) => void) | undefined;
}

function Row({ step: s, number, on, mixed, head, onGo, onTick, onStuck, onMeasured, onWire }: RowProps) {
  const classes = `workrow${mixed ? ' mixed' : ''}${on ? ' selected' : ''}${s.done ? ' done' : ''}${s.done || s.ready ? '' : ' waits'}`;
  return (
    <div role="presentation">
      {head && <div className="worksystem">{head}</div>}
      <div
        id={`step-${s.id}`}
        className={classes}
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
        {mixed && (
          <span role="gridcell" className="workstage">
            {stageName(s.stage ?? '')}
          </span>
        )}
        <span role="gridcell">{kindWord(s)}</span>
        <span role="gridcell">
          {s.text} {s.why && (on || !mixed) && <span className="quiet">{s.why}</span>}
          {on && s.warn?.map((w) => <div key={w}>! {w}</div>)}
          {on && s.missing && s.missing.length > 0 && <Missing all={s.missing} />}
          {on && s.measure && !s.done && <Measured wire={s.measure} onMeasured={onMeasured} />}
          {on && !s.done && s.blocked && <div className="quiet">First: {s.blocked}</div>}
          {on && ((onWire && s.wires) || (s.stage === 'thin' && s.kind === 'out' && !s.done)) && (
            <div className="bar" style={{ gap: 6 }}>
              {onWire &&
                s.wires?.slice(0, 4).map((w) => (
                  <Button key={w} size="small" onClick={() => onWire(w)}>
                    show {w}
                  </Button>
                ))}
              {s.stage === 'thin' && s.kind === 'out' && !s.done && (
                <Button size="small" onClick={onStuck}>
                  It does not come out
                </Button>
              )}
            </div>
          )}
        </span>
        {mixed && (
          <span role="gridcell" className="mono quiet workplace" title={s.place}>
            {s.place ?? ''}
          </span>
        )}
        <span role="gridcell" className="quiet">
          {s.done ? `${s.who ?? ''} ${s.when ? localDay(s.when) : ''}` : s.noReturn ? 'no way back' : ''}
        </span>
      </div>
    </div>
  );
}

/** How much of what is missing stands in the list; the rest is opened. */
const few = 4;

function Missing({ all }: { all: readonly string[] }) {
  const list = (some: readonly string[]) => (
    <ul className="missing">
      {some.map((m) => (
        <li key={m}>{m}</li>
      ))}
    </ul>
  );
  return (
    <>
      {list(all.slice(0, few))}
      {all.length > few && (
        <details>
          <summary>{all.length - few} more are missing</summary>
          {list(all.slice(few))}
        </details>
      )}
    </>
  );
}
