import { Link, useSearchParams } from 'react-router';
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

/** The parts of Gather: the two pinouts, and everything else that is found out about the job. */
export function GatherNav({ job, side }: { job: JobView; side?: 'from' | 'to' | undefined }) {
  const part = useGatherPart();
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
      {parts.map(([p, word]) => (
        <Link key={p} to={`?part=${p}`} className={p === part ? 'on' : ''}>
          {word}
        </Link>
      ))}
    </nav>
  );
}
