import { useRef } from 'react';
import { useDecide, type Decide } from '../../api/hooks';

/**
 * Sends decisions one after the other, as fast as keys come, without waiting for what is shown to catch up. A row that was
 * decided a moment ago is seen as this window left it; what anybody else has done to it since is still not overwritten.
 */
export function useDecisions(job: string, revision: number, onError: (e: unknown, key: string) => void) {
  const decide = useDecide(job);
  const tail = useRef<Promise<unknown>>(Promise.resolve());
  const own = useRef(new Map<string, number>());
  return (key: string, d: Decide) => {
    tail.current = tail.current
      .then(() => decide.mutateAsync({ ...d, seen: Math.max(revision, own.current.get(key) ?? 0) }))
      .then((done) => own.current.set(key, done.revision))
      .catch((e: unknown) => onError(e, key));
  };
}
