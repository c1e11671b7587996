/**
 * One stream of changes for all windows of a browser: a browser has six connections to a server, and each window that held
 * one of its own would take one from the changes that want to leave.
 */
export interface Watch {
  watch?: string;
  leave?: string;
}

/** What a window is told: a job that it watches has this revision. */
export interface Told {
  job: string;
  revision: number;
}

const windows = new Map<MessagePort, Set<string>>();
const latest = new Map<string, number>();
let stream: EventSource | undefined;

function open() {
  if (stream && stream.readyState !== EventSource.CLOSED) {
    return;
  }
  stream = new EventSource('/api/events');
  stream.addEventListener('revision', (e: MessageEvent<string>) => {
    const told = JSON.parse(e.data) as Told;
    latest.set(told.job, told.revision);
    windows.forEach((jobs, port) => {
      if (jobs.has(told.job)) {
        port.postMessage(told);
      }
    });
  });
}

// A stream that was refused, because the passcode had not been given, is not opened again by itself.
setInterval(() => windows.size > 0 && open(), 3000);

(self as unknown as { onconnect: (e: MessageEvent) => void }).onconnect = ({ ports: [port] }) => {
  if (!port) {
    return;
  }
  const jobs = new Set<string>();
  port.onmessage = ({ data }: MessageEvent<Watch>) => {
    if (data.leave) {
      jobs.delete(data.leave);
      if (jobs.size === 0) {
        windows.delete(port);
      }
    }
    if (data.watch) {
      windows.set(port, jobs.add(data.watch));
      const revision = latest.get(data.watch);
      if (revision !== undefined) {
        port.postMessage({ job: data.watch, revision });
      }
    }
  };
  open();
};
