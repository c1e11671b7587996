import { useSearchParams } from 'react-router';
import type { ListKind } from '../../api/gather';
import type { GatherView } from '../../api/types.gen';
import { FactList } from '../../lists/FactList';

const kinds: [ListKind, string][] = [
  ['wires', 'Wires'],
  ['splices', 'Splices'],
  ['connectors', 'Connectors'],
  ['devices', 'Devices'],
  ['branches', 'Branches'],
];

/** What lies between the connectors, as lists: brought as tables, put right and added to in place. */
export function ListsPage({ job, view }: { job: string; view: GatherView }) {
  const [address, setAddress] = useSearchParams();
  const kind = kinds.find(([k]) => k === address.get('list'))?.[0] ?? 'wires';
  return (
    <div className="factsbody fill">
      <h1 className="unseen">Lists of what lies between the connectors</h1>
      <div className="bar">
        {kinds.map(([k, word]) => (
          <button
            key={k}
            className={`plain listtab${k === kind ? ' on' : ''}`}
            aria-pressed={k === kind}
            onClick={() => setAddress({ part: 'lists', list: k }, { replace: true })}
          >
            {word} <span className="quiet mono">{view.sheets.find((s) => s.kind === k)?.rows ?? 0}</span>
          </button>
        ))}
      </div>
      <FactList key={kind} job={job} kind={kind} />
    </div>
  );
}
