import { useCallback, useEffect, useRef, useState } from 'react';
import { ProblemError, request } from './client';
import type { Done } from './types.gen';

/** A change that waits to be sent. Its id makes it one change however often it is sent. */
export interface Waiting {
  id: string;
  path: string;
  body: object;
  /** What it does to the step that it is about: for what the screen shows until it has arrived. */
  step: string;
}

const retry = 2000; // ms between tries while nobody answers

/** Whether the answer is no: a server that is out of order, or asks for the passcode, has not answered yet. */
function refuses(e: ProblemError): boolean {
  const { status } = e.problem;
  return status >= 400 && status < 500 && status !== 401 && status !== 429;
}

function stored(key: string): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(key) ?? '[]') as Waiting[];
  } catch {
    return []; // a queue that cannot be read is no queue
  }
}

/**
 * Sends changes in order, each once, and keeps those that could not be sent in the browser until the network is back, also
 * over a reload. A change that is refused is dropped with all that were made after it: they were made on what it did not do.
 */
export function useQueue(
  key: string,
  onArrived: (w: Waiting, done: Done) => void,
  onRefused: (e: ProblemError, dropped: Waiting[]) => void,
) {
  const [waiting, setWaiting] = useState(() => stored(key));
  const [cut, setCut] = useState(false);
  const all = useRef(waiting);
  const sending = useRef(false);
  const calls = useRef({ onArrived, onRefused });
  const keep = useCallback(
    (next: Waiting[]) => {
      all.current = next;
      localStorage.setItem(key, JSON.stringify(next));
      setWaiting(next);
    },
    [key],
  );
  const send = useCallback(async () => {
    if (sending.current) {
      return;
    }
    sending.current = true;
    for (let head = all.current[0]; head; head = all.current[0]) {
      try {
        const done = await request<Done>('POST', head.path, { ...head.body, id: head.id });
        setCut(false);
        keep(all.current.slice(1));
        calls.current.onArrived(head, done);
      } catch (e) {
        if (e instanceof ProblemError && refuses(e)) {
          const dropped = all.current;
          keep([]);
          calls.current.onRefused(e, dropped);
        } else {
          setCut(true);
        }
        break;
      }
    }
    sending.current = false;
  }, [keep]);
  useEffect(() => {
    calls.current = { onArrived, onRefused };
  });
  useEffect(() => {
    const again = () => void send();
    const timer = setInterval(again, retry);
    window.addEventListener('online', again);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', again);
    };
  }, [send]);
  const add = (w: Waiting) => {
    keep([...all.current, w]);
    void send();
  };
  /** Takes the last one back if it has not been sent yet, and may be. */
  const takeBack = (may: (w: Waiting) => boolean): Waiting | undefined => {
    const last = all.current.at(-1);
    if (!last || !may(last) || (sending.current && all.current.length === 1)) {
      return undefined;
    }
    keep(all.current.slice(0, -1));
    return last;
  };
  return { waiting, cut, add, takeBack };
}
