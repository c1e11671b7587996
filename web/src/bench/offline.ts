import { useEffect, useSyncExternalStore } from 'react';
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

/** When what is shown was kept, in ms; 0 where it has just come from the server. */
let since = 0;
const listeners = new Set<() => void>();
onKept((ms) => {
  if (ms !== since) {
    since = ms;
    listeners.forEach((call) => call());
  }
});

export const useKeptSince = () =>
  useSyncExternalStore(
    (call) => {
      listeners.add(call);
      return () => listeners.delete(call);
    },
    () => since,
  );

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
  useEffect(() => {
    localStorage.setItem(last, `${location.pathname}${location.search}`);
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
