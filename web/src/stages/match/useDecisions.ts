import { useDecide, type Decide } from '../../api/hooks';
import { useInTurn } from '../../api/inTurn';

/** Sends decisions in turn; the key is the row's. */
export function useDecisions(job: string, revision: number, onError: (e: unknown, key: string) => void) {
  const decide = useDecide(job);
  const inTurn = useInTurn(revision);
  return (key: string, d: Decide) =>
    inTurn(
      key,
      (seen) => decide.mutateAsync({ ...d, seen }),
      (e) => onError(e, key),
    );
}
