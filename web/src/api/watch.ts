import type { Told, Watch } from './stream.worker';

type Call = (revision: number) => void;

const calls = new Map<string, Set<Call>>();
let port: MessagePort | undefined;
let alone = false;

/** Opens the way to the stream that all windows share; where the browser has none, each job of this window has its own. */
function shared(): MessagePort | undefined {
  if (port || alone) {
    return port;
  }
  try {
    const worker = new SharedWorker(new URL('./stream.worker.ts', import.meta.url), { type: 'module' });
    worker.onerror = () => {
      port = undefined;
      alone = true;
      calls.forEach((_, job) => own(job));
    };
    port = worker.port;
    port.onmessage = ({ data }: MessageEvent<Told>) =>
      calls.get(data.job)?.forEach((call) => call(data.revision));
  } catch {
    alone = true;
  }
  return port;
}

const streams = new Map<string, EventSource>();

function own(job: string) {
  if (streams.has(job)) {
    return;
  }
  const stream = new EventSource(`/api/jobs/${encodeURIComponent(job)}/events`);
  stream.addEventListener('revision', (e: MessageEvent<string>) =>
    calls.get(job)?.forEach((call) => call(Number(e.data))),
  );
  streams.set(job, stream);
}

const say = (w: Watch) => shared()?.postMessage(w);

// A page that is left may come back as it was: until then nothing is told to it.
window.addEventListener('pagehide', () => calls.forEach((_, job) => say({ leave: job })));
window.addEventListener('pageshow', (e) => e.persisted && calls.forEach((_, job) => say({ watch: job })));

/** Calls with the revision of a job, now and whenever it has another, until what it gives back is called. */
export function watchJob(job: string, call: Call): () => void {
  const all = calls.get(job) ?? new Set<Call>();
  calls.set(job, all);
  all.add(call);
  if (shared()) {
    say({ watch: job });
  } else {
    own(job);
  }
  return () => {
    all.delete(call);
    if (all.size > 0) {
      return;
    }
    calls.delete(job);
    if (port) {
      say({ leave: job });
    }
    streams.get(job)?.close();
    streams.delete(job);
  };
}
