// Lets an open bench load anew while the network is away. It stands only between the
// bench's pages and the network; what it falls back on, the bench has put aside
// itself. Browsers run it only over https or on the machine itself.
const cache = 'cressa-bench';

self.addEventListener('install', () => self.skipWaiting());

async function networkFirst(request, key) {
  try {
    return await fetch(request);
  } catch (away) {
    const old = await (await caches.open(cache)).match(key);
    if (old) return old;
    throw away;
  }
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  if (request.method !== 'GET' || new URL(request.url).origin !== location.origin) return;
  // Every address of the application is the same page.
  event.respondWith(networkFirst(request, request.mode === 'navigate' ? '/' : request));
});
