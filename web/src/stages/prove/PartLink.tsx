import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useSimulated } from '../../api/prove';

/** To another part of Prove, of the same vehicle: the real one's or the simulated one's. */
export function PartLink({ part, children }: { part: string; children: ReactNode }) {
  const simulated = useSimulated();
  return <Link to={`?part=${part}${simulated ? '&simulated=1' : ''}`}>{children}</Link>;
}
