/*
 * Lets the bench be read without a network: what a bench page has asked for is kept by this device, and given again when
 * nobody answers, with the moment at which it was kept. Every other page, and every change, goes to the server as ever.
 */
const pages = 'draxel-pages';
const files = 'draxel-files';
const answers = 'draxel-answers';
const most = { [pages]: 4, [files]: 240, [answers]: 400 };
const patience = 8000; // ms that an answer may take before what is kept is shown
const shell = '/bench';

const ofBench = (path) => path === '/bench' || /^\/jobs\/[^/]+\/bench$/.test(path);

/** Keeps a reply under a name, with the moment, and no more than so many. */
async function keep(store, name, reply) {
  const cache = await caches.open(store);
  const headers = new Headers(reply.headers);
  headers.set('Draxel-Kept', String(Date.now()));
  headers.delete('Content-Encoding'); // it has been unpacked
  const body = await reply.blob();
  await cache.delete(name);
  await cache.put(name, new Response(body, { status: reply.status, headers }));
  const all = await cache.keys();
  await Promise.all(all.slice(0, Math.max(0, all.length - most[store])).map((k) => cache.delete(k)));
}

/** The reply of the server, kept for later; what was kept before where it does not come. */
async function freshOr(store, name, request, wait) {
  const asked = fetch(request).then((reply) => {
    if (reply.ok && reply.status === 200) {
      void keep(store, name, reply.clone()).catch(() => undefined); // a full disk keeps nothing, and the page goes on
    }
    return reply;
  });
  const kept = await (await caches.open(store)).match(name);
  if (!kept) {
    return asked;
  }
  const late = new Promise((take) => setTimeout(() => take(kept), wait));
  return Promise.race([asked.catch(() => kept), late]);
}

/** A file of the page never changes under its name: what is kept is as good as what is asked for. */
async function keptOr(request) {
  const kept = await (await caches.open(files)).match(request.url);
  return kept ?? freshOr(files, request.url, request, patience);
}

async function fromBench(event) {
  const client = event.clientId ? await self.clients.get(event.clientId) : undefined;
  return client !== undefined && ofBench(new URL(client.url).pathname);
}

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== location.origin || url.pathname.endsWith('/events')) {
    return;
  }
  if (ofBench(url.pathname)) {
    event.respondWith(freshOr(pages, shell, request, patience));
  } else if (url.pathname.startsWith('/assets/') || url.pathname === '/icon.svg') {
    event.respondWith(keptOr(request));
  } else if (url.pathname.startsWith('/api/')) {
    event.respondWith(
      fromBench(event).then((bench) =>
        bench ? freshOr(answers, request.url, request, patience) : fetch(request),
      ),
    );
  }
});
