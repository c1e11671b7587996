import { decideMatch, type Decide } from '../../api/hooks';
import { useKeyed } from '../../outbox/useOutbox';

/** Sends decisions in turn; the key is the row's. */
export function useDecisions(job: string, revision: number, onError: (e: unknown, key: string) => void) {
  const keyed = useKeyed(revision);
  return (key: string, d: Decide) =>
    keyed(
      key,
      (seen) => decideMatch(job, { ...d, ...seen }),
      (e) => onError(e, key),
    );
}
