// Keeps the application and the open work within reach while the network is away.
// Browsers run it only over https or on the machine itself.
const cache = 'cressa-1';

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

// What the network gave last stands in for it: the page for every address of the
// application, and the script of a stone for its bench.
async function networkFirst(request, key) {
  const kept = await caches.open(cache);
  try {
    const answer = await fetch(request);
    if (answer.ok) await kept.put(key, answer.clone());
    return answer;
  } catch (away) {
    const old = await kept.match(key);
    if (old) return old;
    throw away;
  }
}

// Built files carry their hash in their name and never change.
async function keptFirst(request) {
  const kept = await caches.open(cache);
  const old = await kept.match(request);
  if (old) return old;
  const answer = await fetch(request);
  if (answer.ok) await kept.put(request, answer.clone());
  return answer;
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== location.origin) return;
  if (request.mode === 'navigate') event.respondWith(networkFirst(request, '/'));
  else if (pathname.startsWith('/assets/')) event.respondWith(keptFirst(request));
  else if (/^\/api\/stones\/[^/]+\/script$/.test(pathname))
    event.respondWith(networkFirst(request, request));
});
