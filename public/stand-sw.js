// Keeps what the stand needs, so that a part that was opened once opens again without the network: its page, the program's files and the
// sounds. Nothing else goes through here.
const KEPT = 'reed-stand-1';
const MOST = 600;

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

const isStand = ({ pathname }) => /^\/tunes\/[^/]+\/stand$/.test(pathname) || /^\/[ph]\/[\w-]+(?:\/stand)?$/.test(pathname);
const isFile = ({ pathname }) => pathname.startsWith('/_next/static/') || pathname === '/api/sounds' || pathname === '/hearing-worklet.js' || pathname === '/icon.svg';

async function keep(request, response) {
  if (!response.ok) return;
  const cache = await caches.open(KEPT);
  await cache.put(request, response);
  const all = await cache.keys();
  for (const old of all.slice(0, Math.max(0, all.length - MOST))) await cache.delete(old);
}

async function fileOf(request) {
  const known = await caches.match(request);
  // Workers are told by the fragment of their address what they are: an answer that brings its own address would hide it.
  if (known) return request.destination === 'worker' ? new Response(known.body, known) : known;
  const response = await fetch(request);
  await keep(request, response.clone());
  return response;
}

async function pageOf(request) {
  try {
    const response = await fetch(request);
    // A link that has ended opens nothing any more, not even what was kept.
    if (response.status === 404) await (await caches.open(KEPT)).delete(request);
    else if (!response.redirected) await keep(request, response.clone());
    return response;
  } catch (error) {
    const known = await caches.match(request);
    if (known) return known;
    throw error;
  }
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== self.location.origin) return;
  if (request.mode === 'navigate' && isStand(url)) event.respondWith(pageOf(request));
  else if (isFile(url)) event.respondWith(fileOf(request));
});

// What the page had loaded before this was here.
self.addEventListener('message', (event) => {
  const { keep: addresses } = event.data ?? {};
  if (!Array.isArray(addresses)) return;
  const wanted = addresses.map((address) => new URL(address, self.location.origin)).filter((url) => url.origin === self.location.origin);
  event.waitUntil(
    Promise.all(
      wanted
        .filter((url) => isStand(url) || isFile(url))
        .map(async (url) => {
          if (await caches.match(url.href)) return;
          const response = await fetch(url.href, { credentials: 'same-origin' });
          await keep(new Request(url.href), response);
        }),
    ).then(() => event.source?.postMessage({ kept: wanted.length })),
  );
});
