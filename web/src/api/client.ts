import type { Problem } from './types.gen';

/** An error reply of the server: what happened, in one sentence, with a stable code. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const whoKey = 'draxel-who';
export const whoIsWorking = () => localStorage.getItem(whoKey) ?? '';
export const setWhoIsWorking = (name: string) => localStorage.setItem(whoKey, name);

const locked = new EventTarget();

/** Calls back when a reply says that this device has to give the passcode. */
export function onPasscodeWanted(call: () => void): () => void {
  locked.addEventListener('wanted', call);
  return () => locked.removeEventListener('wanted', call);
}

function wantPasscode() {
  locked.dispatchEvent(new Event('wanted'));
}

function unreachable(): ProblemError {
  return new ProblemError({
    title: 'Unreachable',
    status: 0,
    code: 'unreachable',
    detail: 'Draxel does not answer. What was stored is safe: start it again and repeat the last step.',
  });
}

async function ask(path: string, init: RequestInit): Promise<Response> {
  let reply: Response;
  try {
    reply = await fetch('/api' + path, init);
  } catch {
    throw unreachable();
  }
  if (!reply.ok) {
    const problem = (await reply.json()) as Problem;
    if (problem.code === 'passcode-wanted') {
      wantPasscode();
    }
    throw new ProblemError(problem);
  }
  if ((init.method ?? 'GET') === 'GET') {
    told.forEach((call) => call(path, Number(reply.headers.get('Draxel-Kept') ?? 0)));
  }
  return reply;
}

const told = new Set<(path: string, ms: number) => void>();

/** Calls back with each answer: when it was kept, in ms, where this device gave it instead of the server; else 0. */
export const onKept = (call: (path: string, ms: number) => void) => told.add(call);

/** A change's id is made here, so that a retry is not a second change. Over plain HTTP on a network randomUUID is not there. */
export const newChangeID = () =>
  [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16).padStart(2, '0')).join('');

/**
 * The hand that writes in this page: what it did itself it need not have seen. A page that is loaded anew goes on with it;
 * a copy of the window is another.
 */
export const hand = (() => {
  const [how] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
  const before = how?.type === 'reload' ? sessionStorage.getItem('draxel-hand') : null;
  const id = before ?? newChangeID();
  sessionStorage.setItem('draxel-hand', id);
  return id;
})();

interface Asking {
  /** It is answered also when the page is left. */
  lasts?: boolean;
  /** The hand that made the change, where that is not this page's. */
  hand?: string | undefined;
  /** The change of the same hand that this one goes on from, and had not been seen as it came out. */
  upon?: string | undefined;
}

/** Asks the server. */
export async function request<T>(method: string, path: string, body?: unknown, how: Asking = {}): Promise<T> {
  const form = body instanceof FormData;
  const reply = await ask(path, {
    method,
    keepalive: how.lasts === true && JSON.stringify(body).length < 60_000,
    headers: {
      'Draxel-Who': encodeURIComponent(whoIsWorking()),
      'Draxel-Hand': how.hand ?? hand,
      ...(how.upon ? { 'Draxel-Upon': how.upon } : {}),
      ...(body === undefined || form || body instanceof Blob ? {} : { 'Content-Type': 'application/json' }),
    },
    body: body === undefined || form || body instanceof Blob ? body : JSON.stringify(body),
  });
  return (await reply.json()) as T;
}

/** Fetches a file and gives it to the browser to keep, under the name that the server says, else another. */
export async function takeFile(path: string, name: string): Promise<void> {
  const reply = await ask(path, { method: 'GET' });
  const address = URL.createObjectURL(await reply.blob());
  const link = document.createElement('a');
  link.href = address;
  const said = /filename\*=UTF-8''([^;]+)/.exec(reply.headers.get('Content-Disposition') ?? '');
  link.download = said?.[1] ? decodeURIComponent(said[1]) : name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}

export function explain(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
