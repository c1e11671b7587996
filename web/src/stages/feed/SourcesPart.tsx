import { useSearchParams } from 'react-router';
import type { ListKind } from '../../api/gather';
import type { FeedView } from '../../api/types.gen';
import { FactList } from '../../lists/FactList';

const words: Partial<Record<ListKind, [string, string]>> = {
  sources: [
    'Sources',
    'The battery and the alternator: where their poles are, cranking amps, Ah, amps at speed and at idle.',
  ],
  fuses: [
    'Fuses',
    'A line a slot: its rating, the cavity or bus that feeds it, the cavity that it feeds. A slot that feeds nothing is a spare.',
  ],
  switches: [
    'Contacts',
    'The key, contact by contact, with the positions in which it is closed; and switches of their own. What was measured at the ignition switch outranks this list.',
  ],
  relays: ['Relays', 'Where the coil gets its two ends, and what its contact joins.'],
  cables: ['Cables', 'Thick cables and ground straps that no list of wires has.'],
  loads: ['Loads', 'What was stated or measured of a load; the rest is reckoned as usual for its kind.'],
};

/** What stands in the vehicle beside its wires, as lists. */
export function SourcesPart({ job, view }: { job: string; view: FeedView }) {
  const [address, setAddress] = useSearchParams();
  const kind = view.lists.find((l) => l.kind === address.get('list'))?.kind ?? 'sources';
  return (
    <div className="feedlists">
      <div className="bar">
        {view.lists.map((l) => (
          <button
            key={l.kind}
            className={`plain listtab${l.kind === kind ? ' on' : ''}`}
            aria-pressed={l.kind === kind}
            onClick={() => setAddress({ part: 'sources', list: l.kind }, { replace: true })}
          >
            {words[l.kind]?.[0] ?? l.kind} <span className="quiet mono">{l.rows}</span>
          </button>
        ))}
      </div>
      <p className="quiet">
        {words[kind]?.[1]} A place is a cavity (<span className="mono">F-3</span>) or a name of its own (
        <span className="mono">battery +</span>, <span className="mono">body</span>).
      </p>
      {kind === 'switches' && view.measured.length > 0 && (
        <p data-testid="measured">As measured: {view.measured.join('; ')}.</p>
      )}
      <FactList key={kind} job={job} kind={kind} />
    </div>
  );
}
