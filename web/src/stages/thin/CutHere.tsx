import type { CutView } from '../../api/types.gen';
import type { Selection } from './selection';

/** What happens if this is cut out of the harness, whatever has been decided. */
export function CutHere({ cut, onSelect }: { cut: CutView; onSelect: (s: Selection) => void }) {
  const parted = cut.circuits.filter((c) => c.lose.length > 0);
  return (
    <section className="cuthere" data-testid="cut">
      <h3>If I cut here</h3>
      {cut.locked && <p className="problem">{cut.locked}</p>}
      {cut.legal.length > 0 && (
        <p>
          The law may want: <strong>{cut.legal.join(', ')}</strong>. Check local rules.
        </p>
      )}
      {cut.dies.length === 0 ? (
        <p className="quiet">No function that is kept or undecided loses what feeds or reads it.</p>
      ) : (
        <>
          <p>
            <strong>{cut.dies.length}</strong> {cut.dies.length === 1 ? 'function dies' : 'functions die'}:
          </p>
          {cut.dies.slice(0, 14).map((l) => (
            <div key={l.at} className="dies">
              <span className="mono">{l.at}</span>
              <span className="grow">
                {l.function} {l.device && <span className="quiet">{l.device}</span>}
              </span>
              {l.kept && <strong>kept</strong>}
            </div>
          ))}
          {cut.dies.length > 14 && <div className="quiet">and {cut.dies.length - 14} more</div>}
        </>
      )}
      {cut.fuses.length > 0 && (
        <p>
          Fuses that lose something: <span className="mono">{cut.fuses.join(', ')}</span>
        </p>
      )}
      <p className="quiet">
        {parted.length} of {cut.circuits.length} circuits lose an end; {cut.carries} of its wires are kept or
        undecided.
      </p>
      {parted.slice(0, 8).map((c) => (
        <div key={c.circuit} className="dies">
          <button
            className="plain mono"
            onClick={() => c.wires[0] && onSelect({ on: 'wire', id: c.wires[0] })}
          >
            {c.wires[0]}
          </button>
          <span className="grow">
            {c.name} <span className="quiet">loses {c.lose.slice(0, 5).join(', ')}</span>
          </span>
        </div>
      ))}
    </section>
  );
}
