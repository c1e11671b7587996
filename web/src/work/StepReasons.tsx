import { Button } from 'antd';
import type { Joined, OwnStep, WorkListView, WorkStep } from '../api/types.gen';
import { localDay } from '../frame/When';
import { refName } from '../harness/cavity';
import { colourName } from '../harness/insulation';
import { WireSwatch } from '../harness/WireSwatch';
import { kindWord, stageName } from './words';

interface Props {
  view: WorkListView;
  step: WorkStep | undefined;
  onBeside: (s: WorkStep, where: 'before' | 'after') => void;
  onEdit: (o: OwnStep) => void;
  onDrop: (o: OwnStep) => void;
}

/** Why a step stands where it does: what it waits for, which wire it is, the joint that it makes, and what was done. */
export function StepReasons({ view, step, onBeside, onEdit, onDrop }: Props) {
  const own = step?.own;
  const joint = step && step.stage === 'join' ? jointOf(view.joints, step) : undefined;
  return (
    <aside className="reasons" aria-label="reasons">
      {step ? (
        <>
          <div>
            <h2>
              {stageName(step.stage ?? '')}: {kindWord(step)}
            </h2>
            <div className="quiet">
              {step.done
                ? `done by ${step.who ?? 'somebody'}${step.when ? `, ${localDay(step.when)}` : ''}`
                : step.ready
                  ? 'can be done now'
                  : 'cannot be done yet'}
            </div>
          </div>
          {step.row?.ref && (
            <section className="stepwire">
              <WireSwatch colour={step.row.colour} bare="right" />
              <div>
                <strong className="mono">{colourName(step.row.colour) || 'colour not given'}</strong>{' '}
                {step.row.circuit && <span className="mono">{step.row.circuit}</span>}
                <div>{step.row.function ?? ''}</div>
                {step.row.ref.connector && (
                  <div className="quiet">
                    at <span className="mono">{refName(step.row.ref)}</span>
                  </div>
                )}
              </div>
            </section>
          )}
          {!step.done && step.blocked && (
            <section>
              <h3>First</h3>
              <div>{step.blocked}</div>
            </section>
          )}
          {step.why && (
            <section>
              <h3>Why</h3>
              <div>{step.why}</div>
            </section>
          )}
          {joint && <JointSays joint={joint} />}
          {(step.how ?? step.after) && (
            <section>
              <h3>How</h3>
              <div>{[step.how, step.after].filter(Boolean).join(' ')}</div>
            </section>
          )}
          <section className="bar" style={{ gap: 6 }}>
            <Button size="small" onClick={() => onBeside(step, 'before')}>
              Our own step before…
            </Button>
            <Button size="small" onClick={() => onBeside(step, 'after')}>
              …after <kbd>W</kbd>
            </Button>
            {own && (
              <>
                <Button size="small" onClick={() => onEdit(own)}>
                  Measure or change…
                </Button>
                <Button size="small" onClick={() => onDrop(own)}>
                  Take it away
                </Button>
              </>
            )}
          </section>
        </>
      ) : (
        <p>Nothing is selected.</p>
      )}
      {view.done.length > 0 && (
        <section>
          <h3>Done last</h3>
          {view.done.slice(-5).map((t) => (
            <div key={t.step} className="quiet">
              {t.text} {t.who}
            </div>
          ))}
        </section>
      )}
    </aside>
  );
}

/** The joint that a step measures for, cuts for or makes. */
function jointOf(joints: readonly Joined[], s: WorkStep): Joined | undefined {
  const at = (s.at ?? []).map(refName);
  return joints.find((j) =>
    j.ends.some((e) => (s.wires ?? []).includes(e.wire) || (e.at && at.includes(refName(e.at)))),
  );
}

function JointSays({ joint }: { joint: Joined }) {
  return (
    <section>
      <h3>{joint.name}</h3>
      {joint.ends.map((e) => (
        <div key={e.wire + refName(e.at)}>
          {e.name}{' '}
          <span className="quiet">
            {e.how}
            {e.back && e.how !== 'new' ? `, ${Math.round(e.back)} mm behind the plug` : ''}
            {e.theirs ? ' · the vehicle’s' : ''}
          </span>
        </div>
      ))}
      {joint.proof && !joint.made && <div className="quiet">Measure first. {joint.proof}</div>}
    </section>
  );
}
