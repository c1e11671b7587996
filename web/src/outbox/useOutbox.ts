import { useRef, useSyncExternalStore } from 'react';
import type { Done } from '../api/types.gen';
import { outboxOf, Refused } from './outbox';

/** What a change was made on: the revision that was shown, and the thing that it is about. */
export interface Seen {
  seen: number;
  subject: string;
}

/** What waits in a job's outbox. */
export const useUnsent = (job: string) => {
  const box = outboxOf(job);
  return useSyncExternalStore(box.subscribe, box.get);
};

/**
 * Makes changes as fast as keys come, without waiting for what is shown to catch up. A thing that was changed a moment ago is
 * seen as this browser left it; what anybody else has done to it since is still not overwritten.
 */
export function useKeyed(revision: number) {
  return (subject: string, send: (seen: Seen) => Promise<Done>, onError: (e: unknown) => void) => {
    send({ seen: revision, subject }).catch((e: unknown) => {
      if (!(e instanceof Refused) || e.first) {
        onError(e);
      }
    });
  };
}

/**
 * Changes a document that is sent whole. A change that comes before the reply to the one before it starts from what that one
 * made, so that neither is lost.
 */
export function useDocument<T>(
  name: string,
  revision: number,
  shown: T,
  send: (doc: T, seen: Seen) => Promise<Done>,
  onError: (e: unknown) => void,
) {
  const keyed = useKeyed(revision);
  const own = useRef<{ doc: T; revision: number } | undefined>(undefined);
  return (change: (doc: T) => T) => {
    const doc = change(own.current && own.current.revision > revision ? own.current.doc : shown);
    const mine = { doc, revision: Infinity }; // until the reply says which revision it made
    own.current = mine;
    keyed(
      name,
      async (seen) => {
        const done = await send(doc, seen);
        mine.revision = done.revision;
        return done;
      },
      (e) => {
        own.current = undefined;
        onError(e);
      },
    );
  };
}
