import type { SheetStep } from '../../api/types.gen';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';

/** The selected step in full: the sentence, the wire, how it is done and what to watch for. */
export function Selected({ step, number, of }: { step: SheetStep; number: number; of: number }) {
  return (
    <div>
      <div className="quiet">
        step {number} of {of}
        {step.hand && step.hand.length > 0 && ` · in hand after it: ${step.hand.join(', ')}`}
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
      <div className="quiet">
        {[step.why, step.how, step.fit?.verdict && step.fit.why, step.after].filter(Boolean).join(' ')}
      </div>
      {step.warn?.map((w) => (
        <div key={w} className="warned">
          ! {w}
        </div>
      ))}
    </div>
  );
}
