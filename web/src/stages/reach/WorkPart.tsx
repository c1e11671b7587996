import { Button } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ProblemError } from '../../api/client';
import { useInTurn } from '../../api/inTurn';
import { useLength, useReachTick } from '../../api/reach';
import type { ReachStep } from '../../api/types.gen';
import { VirtualRows } from '../../frame/VirtualRows';
import { useKey } from '../../keys/useKey';
import { ReasonDialog } from '../thin/ReasonDialog';
import { NumberField } from './NumberField';
import type { PartProps } from './ReachPage';
import { kindWord } from './words';

/** Route all, measure all, cut, join, cover: each step ticked with who and when. */
export function WorkPart({ job, view, onError }: PartProps) {
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      view.steps.findIndex((s) => !s.done),
    ),
  );
  const [gate, askGate] = useState<{ step: ReachStep; why: string } | undefined>();
  const go = useNavigate();
  const tick = useReachTick(job);
  const length = useLength(job);
  const inTurn = useInTurn(view.revision);
  const send = (step: ReachStep, done: boolean, reason?: string) => {
    const here = view.steps.indexOf(step);
    if (done) {
      setAt(Math.min(view.steps.length - 1, here + 1));
    }
    inTurn(
      step.id,
      (seen) => tick.mutateAsync({ seen, steps: [step.id], done, ...(reason ? { reason } : {}) }),
      (e) => {
        setAt(here);
        if (e instanceof ProblemError && e.problem.code === 'gate-open') {
          askGate({ step, why: e.message });
        } else {
          onError(e);
        }
      },
    );
  };
  const step = view.steps[at];
  useKey('down', () => setAt(Math.min(view.steps.length - 1, at + 1)));
  useKey('up', () => setAt(Math.max(0, at - 1)));
  useKey('space', () => step && send(step, !step.done));
  return (
    <section className="reachmain workpart">
      <div className="bar reachbar">
        <span className="grow" data-testid="proof">
          <span aria-hidden="true">{view.proof.reached ? '✓' : '✕'}</span> {view.line}
        </span>
        <Button size="small" type="primary" onClick={() => void go('../bench?stage=reach')}>
          Bench view <kbd>B</kbd>
        </Button>
      </div>
      {view.strays.map((t) => (
        <div key={t.step} className="problem">
          “{t.text}” was done, and the plan does not ask for it any more.{' '}
          <Button
            size="small"
            onClick={() =>
              inTurn(t.step, (seen) => tick.mutateAsync({ seen, steps: [t.step], done: false }), onError)
            }
          >
            It was not done
          </Button>
        </div>
      ))}
      <VirtualRows
        rows={view.steps}
        keyOf={(s) => s.id}
        estimate={36}
        label="work"
        className="cutrows"
        at={at}
        testID="work"
        draw={(s, i) => (
          <div
            className={`reachstep${i === at ? ' selected' : ''}${s.done ? ' done' : ''}`}
            role="row"
            aria-rowindex={i + 1}
            aria-selected={i === at}
            onClick={() => setAt(i)}
          >
            <span role="gridcell">
              <input
                type="checkbox"
                checked={s.done}
                aria-label={`step ${i + 1}: ${s.text}`}
                onChange={(e) => {
                  e.currentTarget.blur();
                  send(s, !s.done);
                }}
              />
            </span>
            <span role="gridcell" className="mono quiet">
              {i + 1}
            </span>
            <span role="gridcell">{kindWord[s.kind]}</span>
            <span role="gridcell">
              {s.text} {s.why && i === at && <span className="quiet">{s.why}</span>}
              {i === at && (s.cautions ?? []).map((c) => <div key={c}>! {c}</div>)}
              {i === at && s.kind === 'measure' && s.wire && (
                <div className="bar" style={{ gap: 8 }}>
                  <NumberField
                    label={`measured length of ${s.wire}`}
                    value={0}
                    empty="measured"
                    onChange={(had) =>
                      inTurn(
                        s.wire ?? '',
                        (seen) => length.mutateAsync({ seen, wire: s.wire ?? '', had }),
                        onError,
                      )
                    }
                  />
                  <span className="quiet">type it in, and the plan follows</span>
                </div>
              )}
              {i === at && !s.done && s.blocked && <div className="quiet">First: {s.blocked}</div>}
            </span>
            <span role="gridcell" className="quiet">
              {s.done
                ? `${s.who ?? ''} ${s.when ? new Date(s.when).toISOString().slice(0, 10) : ''}`
                : s.noReturn
                  ? 'no way back'
                  : ''}
            </span>
          </div>
        )}
      />
      {gate && (
        <ReasonDialog
          title="Pass the gate all the same?"
          why={gate.why}
          onClose={() => askGate(undefined)}
          onReason={(reason) => {
            askGate(undefined);
            send(gate.step, true, reason);
          }}
        />
      )}
    </section>
  );
}
