import type { BenchView, WorkStep } from '../api/types.gen';
import { refName } from '../harness/cavity';
import type { View } from '../harness/ConnectorFace';
import { colourName, paintOf } from '../harness/insulation';
import { contentsBefore } from '../work/contents';
import { StepFaces } from '../work/StepFaces';
import { Measured } from '../work/Measured';
import { useRoom } from './useRoom';

interface Props {
  view: BenchView;
  step: WorkStep;
  /** Steps that are done and not read back yet. */
  before: readonly WorkStep[];
  face: View;
  onTurn: () => void;
  onMeasured: (mm: number) => void;
}

/** What to do in one sentence, the wire to look for, and the face as it is in the person's hands. */
export function StepCard({ view, step, before, face, onTurn, onMeasured }: Props) {
  const [box, room] = useRoom();
  const contents = contentsBefore(view.wires, before, undefined, (s) => s.row);
  const small = [
    step.why,
    step.how,
    step.fit?.verdict && step.fit.verdict !== 'travels' ? step.fit.why : '',
    step.after,
  ]
    .filter(Boolean)
    .join(' ');
  return (
    <div className={`benchstep${ids(step).some((id) => view.faces[id]) ? '' : ' faceless'}`}>
      <section className="benchsay" aria-live="polite">
        {step.blocked && (
          <div className="benchfirst" role="status" data-testid="bench-first">
            <strong>Not yet.</strong> First: {step.blocked}
          </div>
        )}
        {step.noReturn && <div className="noreturn">no way back after this</div>}
        <p className={`benchtext${step.text.length > 110 ? ' long' : ''}`} data-testid="bench-text">
          <Sentence text={step.text} marks={[refName(step.from), refName(step.to)]} />
        </p>
        {step.row && (
          <div className="benchwire">
            <BigSwatch row={step.row} />
            <span>
              <strong className="mono">{colourName(step.row.colour) || 'colour not given'}</strong>
              {step.row.circuit && (
                <>
                  {' '}
                  · circuit <strong className="mono">{step.row.circuit}</strong>
                </>
              )}
            </span>
          </div>
        )}
        {step.row?.function && (
          <div className="benchfunction">
            {step.row.function}
            {step.becomes && <span className="quiet"> becomes {step.becomes}</span>}
          </div>
        )}
        {step.warn?.map((w) => (
          <div key={w} className="benchwarn">
            <strong>!</strong> {w}
          </div>
        ))}
        {step.missing && step.missing.length > 0 && (
          <ul className="missing">
            {step.missing.map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
        )}
        {step.measure && <Measured key={step.id} large wire={step.measure} onMeasured={onMeasured} />}
        <div className="benchsmall">{small}</div>
      </section>
      <section className="benchface" ref={box}>
        <StepFaces
          faces={view.faces}
          contents={contents}
          from={step.from}
          to={step.to}
          view={face}
          width={room.width}
          height={Math.max(150, room.height - 70)}
        />
        {(step.from ?? step.to) && (
          <button className="plain quiet" onClick={onTurn}>
            Turn the plug: show the {face === 'wire' ? 'mating face' : 'wire side'} <kbd>V</kbd>
          </button>
        )}
      </section>
    </div>
  );
}

const ids = (s: WorkStep) => [s.from?.connector ?? '', s.to?.connector ?? ''];

/** The sentence with its cavities set out. */
function Sentence({ text, marks }: { text: string; marks: string[] }) {
  const names = marks.filter((m) => m !== '');
  if (names.length === 0) {
    return text;
  }
  const quoted = names
    .map((n) => n.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
    .sort((a, b) => b.length - a.length);
  return text.split(new RegExp(`(?<![\\w-])(${quoted.join('|')})(?![\\w-])`)).map((part, i) =>
    names.includes(part) ? (
      <span key={i} className="benchcavity mono">
        {part}
      </span>
    ) : (
      part
    ),
  );
}

function BigSwatch({ row }: { row: NonNullable<WorkStep['row']> }) {
  const [base, tracer] = row.colour.parts ?? [];
  return (
    <svg viewBox="0 0 220 30" className="bigswatch" aria-hidden="true">
      <rect x="186" y="11" width="34" height="8" fill="var(--copper)" />
      <rect
        x="1"
        y="1"
        width="186"
        height="28"
        rx="4"
        fill={paintOf(base) ?? 'var(--page)'}
        stroke="var(--quiet)"
        strokeDasharray={base ? undefined : '5 4'}
      />
      {tracer && <rect x="2" y="10" width="184" height="9" fill={paintOf(tracer)} />}
    </svg>
  );
}
