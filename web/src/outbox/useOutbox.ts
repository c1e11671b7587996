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
 * Makes changes as fast as keys come, without waiting for what is shown to catch up. A change of a thing goes on from the
 * one that was made of it here a moment ago; what anybody else has done to it since is still not overwritten.
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
 * Changes one of many things that are sent whole, by what it is called. A change that comes before the reply to the one
 * before it starts from what that one made, so that neither is lost.
 */
export function useRecords<T>(
  revision: number,
  send: (doc: T, seen: Seen) => Promise<Done>,
  onError: (e: unknown) => void,
) {
  const keyed = useKeyed(revision);
  const own = useRef(new Map<string, { doc: T; revision: number }>());
  return (subject: string, shown: T, change: (doc: T) => T) => {
    const last = own.current.get(subject);
    const doc = change(last && last.revision > revision ? last.doc : shown);
    const mine = { doc, revision: Infinity }; // until the reply says which revision it made
    own.current.set(subject, mine);
    keyed(
      subject,
      async (seen) => {
        const done = await send(doc, seen);
        mine.revision = done.revision;
        return done;
      },
      (e) => {
        own.current.delete(subject);
        onError(e);
      },
    );
  };
}

/** Changes a document that is sent whole, of which there is one. */
export function useDocument<T>(
  name: string,
  revision: number,
  shown: T,
  send: (doc: T, seen: Seen) => Promise<Done>,
  onError: (e: unknown) => void,
) {
  const put = useRecords(revision, send, onError);
  return (change: (doc: T) => T) => put(name, shown, change);
}
