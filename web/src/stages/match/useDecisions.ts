import { useDecide, type Decide } from '../../api/hooks';
import { useKeyed } from '../../outbox/useOutbox';

/** Sends decisions in turn; the key is the row's. */
export function useDecisions(job: string, revision: number, onError: (e: unknown, key: string) => void) {
  const decide = useDecide(job);
  const keyed = useKeyed(revision);
  return (key: string, d: Decide) =>
    keyed(
      key,
      (seen) => decide.mutateAsync({ ...d, ...seen }),
      (e) => onError(e, key),
    );
}
