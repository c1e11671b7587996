import type { SheetStep, Tick } from '../../api/types.gen';
import { localDay } from '../../frame/When';
import { refName } from '../../harness/cavity';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';
import { kindWord } from '../../work/words';

export const stepHead = (
  <div className="steprow headrow" role="row" aria-rowindex={1}>
    {['done', 'step', 'from → to', 'what', 'do', 'wire', 'function'].map((h) => (
      <span key={h} role="columnheader">
        {h}
      </span>
    ))}
  </div>
);

interface Props {
  step: SheetStep | undefined;
  done: Tick | undefined;
  number: number;
  on: boolean;
  onGo: () => void;
  onTick: () => void;
}

export function StepRow({ step, done, number, on, onGo, onTick }: Props) {
  const from = refName(step ? step.from : done?.at?.[0]);
  const to = refName(step ? step.to : done?.at?.[1]);
  const kind = step?.kind ?? done?.kind;
  const text = step?.text ?? done?.text ?? '';
  return (
    <div
      className={`steprow${on ? ' selected' : ''}${done ? ' done' : ''}`}
      role="row"
      aria-rowindex={number + 1}
      aria-selected={on}
      onClick={onGo}
    >
      <span role="gridcell">
        <input
          type="checkbox"
          checked={!!done}
          onChange={(e) => {
            e.currentTarget.blur(); // the keys go on from the row
            onTick();
          }}
          aria-label={`step ${number}: ${text}`}
        />
      </span>
      <span role="gridcell" className="mono">
        {number}
      </span>
      <span role="gridcell" className="cavities">
        {step?.connector ?? ([from, to || (from && 'out')].filter(Boolean).join(' → ') || '')}
      </span>
      <span role="gridcell">{kind && kindWord({ stage: 'pin', kind })}</span>
      <span role="gridcell">
        {text} {on && step && <span className="quiet">{step.why}</span>}
      </span>
      <span role="gridcell" style={{ display: 'flex', gap: 6, alignItems: 'center' }}>
        {step && step.wire.ref.cavity !== '' && (
          <>
            <WireSwatch colour={step.wire.colour} bare="right" />
            <span className="mono colourword">{colourName(step.wire.colour)}</span>
          </>
        )}
        {done && <span className="quiet">done</span>}
      </span>
      <span role="gridcell" className={done ? 'quiet' : undefined}>
        {step?.wire.function ?? (done ? `${done.who ?? ''} ${done.when ? localDay(done.when) : ''}` : '')}
      </span>
    </div>
  );
}
