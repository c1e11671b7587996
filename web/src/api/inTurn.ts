import { useRef } from 'react';
import type { Done } from './types.gen';

/**
 * Sends changes one after the other, as fast as keys come, without waiting for what is shown to catch up. A subject that
 * was changed a moment ago is seen as this window left it; what anybody else has done to it since is still not overwritten.
 */
export function useInTurn(revision: number) {
  const tail = useRef<Promise<unknown>>(Promise.resolve());
  const own = useRef(new Map<string, number>());
  return (subject: string, send: (seen: number) => Promise<Done>, onError: (e: unknown) => void) => {
    tail.current = tail.current
      .then(() => send(Math.max(revision, own.current.get(subject) ?? 0)))
      .then((done) => own.current.set(subject, done.revision))
      .catch(onError);
  };
}

/**
 * Changes a document that is sent whole, in turn. A change that comes before the reply to the one before it starts from what
 * that one made, so that neither is lost.
 */
export function useDocument<T>(
  revision: number,
  shown: T,
  send: (doc: T, seen: number) => Promise<Done>,
  onError: (e: unknown) => void,
) {
  const inTurn = useInTurn(revision);
  const own = useRef<{ doc: T; revision: number } | undefined>(undefined);
  return (change: (doc: T) => T) => {
    const doc = change(own.current && own.current.revision > revision ? own.current.doc : shown);
    const mine = { doc, revision: Infinity }; // until the reply says which revision it made
    own.current = mine;
    inTurn(
      'document',
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
