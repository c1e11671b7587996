import { Link, useSearchParams } from 'react-router';
import type { TableKey } from '../../api/hooks';
import type { JobView } from '../../api/types.gen';

export type GatherPart = 'tables' | 'vehicles' | 'before' | 'connectors' | 'lists' | 'readings';

const parts: [Exclude<GatherPart, 'tables'>, string][] = [
  ['vehicles', 'Vehicles'],
  ['before', 'Before teardown'],
  ['connectors', 'Connectors'],
  ['lists', 'Lists'],
  ['readings', 'Readings'],
];

export function useGatherPart(): GatherPart {
  const [address] = useSearchParams();
  const asked = address.get('part');
  return parts.find(([p]) => p === asked)?.[0] ?? 'tables';
}

/** The parts of Gather: the two pinouts and further ones, and everything else that is found out about the job. */
/** The key of a pinout in an address, if it is one. */
export const tableKey = (asked: string | null): TableKey | undefined =>
  asked === 'from' || asked === 'to' || /^x[1-9]\d?$/.test(asked ?? '') ? (asked as TableKey) : undefined;

/** The key that the next further pinout gets. */
function nextKey(job: JobView): TableKey {
  const taken = job.more.map((m) => m.key);
  let n = 1;
  while (taken.includes(`x${n}`)) {
    n++;
  }
  return `x${n}`;
}

export function GatherNav({ job, side }: { job: JobView; side?: TableKey | undefined }) {
  const part = useGatherPart();
  const further = nextKey(job);
  return (
    <nav className="sides" aria-label="parts of Gather">
      {(['from', 'to'] as const).map((s) => (
        <Link
          key={s}
          to={`?side=${s}`}
          title={job.sides[s]}
          className={part === 'tables' && s === side ? 'on' : ''}
        >
          {s === 'from' ? 'From' : 'To'}: {job.sides[s] || 'not brought yet'}
        </Link>
      ))}
      {job.more.map((m) => (
        <Link
          key={m.key}
          to={`?side=${m.key}`}
          title={`${m.name}: a further pinout`}
          className={part === 'tables' && m.key === side ? 'on' : ''}
        >
          {m.name}
        </Link>
      ))}
      {job.tables.from && (
        <Link
          to={`?side=${further}`}
          title="bring a further pinout: a pigtail’s or a sub-harness’s"
          aria-label="a further pinout"
          className={part === 'tables' && side === further ? 'on plus' : 'plus'}
        >
          +
        </Link>
      )}
      {parts.map(([p, word]) => (
        <Link key={p} to={`?part=${p}`} className={p === part ? 'on' : ''}>
          {word}
        </Link>
      ))}
    </nav>
  );
}
