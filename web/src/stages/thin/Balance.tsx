import type { Counts, Proof } from '../../api/types.gen';

const hours = (minutes: number) =>
  minutes < 90 ? `${Math.round(minutes)} min` : `${(minutes / 60).toFixed(1)} h`;

/** The counts that must balance, always in sight. */
export function Balance({ counts: c, proof }: { counts: Counts; proof: Proof }) {
  const sum: [number, string][] = [
    [c.placed, 'joined'],
    [c.stock, 'stock'],
    [c.capped, 'capped'],
    [c.parked, 'parked'],
    [c.deleted, 'deleted'],
    [c.inHand, 'in hand'],
  ];
  return (
    <div className="balance" data-testid="balance" aria-label="counts">
      <span title="wire ends let go by the steps that were carried out, and where each of them is now">
        <strong>{c.pulled}</strong> ends pulled ={' '}
        {sum.map(([n, word], i) => (
          <span key={word}>
            {i > 0 && ' + '}
            <strong>{n}</strong> {word}
          </span>
        ))}{' '}
        <strong>{c.balanced ? '✓' : '✕ does not balance'}</strong>
      </span>
      <span title="wires">
        <strong>{c.keep}</strong> kept · <strong>{c.goes}</strong> go · <strong>{c.undecided}</strong>{' '}
        undecided
      </span>
      <span title="stubs that were left on copper that stays">
        <strong>{c.liveStubs}</strong> live stubs
      </span>
      <span>
        <strong>{c.done}</strong> of <strong>{c.steps}</strong> steps
      </span>
      <span
        title={
          c.learned === 1
            ? 'reckoned from the counts'
            : `reckoned from the counts, times ${c.learned.toFixed(2)} from the log`
        }
      >
        <strong>{hours(c.left)}</strong> left of {hours(c.minutes)}
      </span>
      {!proof.reached && <strong role="alert">✕ the steps are not proven</strong>}
    </div>
  );
}
