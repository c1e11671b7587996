import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import { useLocation } from 'react-router';
import { onKept } from '../api/client';

/*
 * The bench without a network: a worker of the browser keeps what a bench page has asked for. It can do so only where the
 * page came over a connection that nobody could have changed: from this machine itself, or over TLS.
 */

const last = 'draxel-last-bench';

/** Whether this device can read the bench without a network. */
export const canKeep = () => isSecureContext && 'serviceWorker' in navigator;

/** The bench that was used last on this device; nothing where none was. */
export const lastBench = () => localStorage.getItem(last) ?? undefined;

/** By what was asked for: when the answer that is shown was kept, in ms; 0 where it has come from the server. */
const ages = new Map<string, number>();
let since = 0;
let looking = false;
const listeners = new Set<() => void>();

function tell() {
  const oldest = Math.min(...[...ages.values()].filter((ms) => ms > 0));
  since = Number.isFinite(oldest) ? oldest : 0;
  listeners.forEach((call) => call());
}

onKept((path, ms) => {
  ages.set(path, ms);
  if (!looking) {
    tell();
  }
});

const again = 5000; // ms between looks whether the server answers again

/**
 * When the oldest of what is shown was kept, in ms; 0 where all of it has come from the server. While some of it was kept it is
 * asked for again now and then: what came late, or came back, is shown without a reload.
 */
export function useKeptSince(): number {
  const client = useQueryClient();
  const kept = useSyncExternalStore(
    (call) => {
      listeners.add(call);
      return () => listeners.delete(call);
    },
    () => since,
  );
  useEffect(() => {
    if (kept === 0) {
      return;
    }
    const timer = setInterval(() => {
      if (!looking) {
        looking = true;
        ages.clear();
        void client.refetchQueries({ type: 'active' }).finally(() => {
          looking = false;
          tell();
        });
      }
    }, again);
    return () => clearInterval(timer);
  }, [kept, client]);
  return kept;
}

/** What a bench of a job may ask for: it is asked for once with a network, so that it is there without. */
const wanted = (job: string) => [
  ...['work', 'thin', 'pin', 'reach', 'feed', 'join', 'own'].map((s) => `/api/jobs/${job}/bench?stage=${s}`),
  `/api/jobs/${job}`,
  `/api/jobs/${job}/pin/check`,
  `/api/jobs/${job}/prove`,
  '/api/kinds',
];

/** The page's own files, which may not have been asked for yet: the list that the build makes of them. */
async function programs(): Promise<string[]> {
  const list = (await (await fetch('/manifest.json')).json()) as Record<
    string,
    { file: string; css?: string[]; assets?: string[]; src?: string }
  >;
  return Object.values(list)
    .flatMap((x) => [x.file, ...(x.css ?? []), ...(x.assets ?? [])])
    .filter((f) => f.startsWith('assets/') && !/Page-/.test(f.replace(/BenchPage-/, '')))
    .map((f) => `/${f}`);
}

/** Has this device keep the bench of a job, as far as it can. */
export function useKeep(job: string) {
  const { pathname, search } = useLocation();
  useEffect(() => {
    try {
      localStorage.setItem(last, `${pathname}${search}`);
    } catch {
      // a browser that has no room left does not know which bench was the last
    }
  }, [pathname, search]);
  useEffect(() => {
    if (!canKeep()) {
      return;
    }
    const get = (url: string) => fetch(url).catch(() => undefined); // without a network it is kept already, or not
    void navigator.serviceWorker
      .register('/offline.js')
      .then(() => navigator.serviceWorker.ready)
      .then(() => programs())
      .then((all) => Promise.all([...all, ...wanted(encodeURIComponent(job)), location.href].map(get)))
      .catch(() => undefined); // it works as before with a network
  }, [job]);
}
