// Holds the whole application of one build, so that any room opens without the network. The
// build writes the two constants: the names of its files, and its own name, which is the
// digest of its page. Browsers run this only over https or on the machine itself.
const build = '__BUILD__';
const files = ['__FILES__'];

const cache = `cressa-${build}`;

/** How long the network is waited for before the page that is held is shown, in ms. */
const race = 2000;

self.addEventListener('install', (event) => {
  event.waitUntil(hold());
  // Pages of an older build go on with their own files, which are still held.
  self.skipWaiting();
});

/** Fetches every file of this build, or none. */
async function hold() {
  const page = await fetch('/', { cache: 'reload' });
  // In the middle of an upgrade the page may be another build's already.
  if (!page.ok || (await digest(await page.clone().arrayBuffer())) !== build)
    throw new Error('the page is not that of this build');
  const to = await caches.open(cache);
  await to.addAll(files);
  await to.put('/', page);
}

async function digest(data) {
  const bytes = new Uint8Array(await crypto.subtle.digest('SHA-256', data));
  return [...bytes.slice(0, 8)].map((b) => b.toString(16).padStart(2, '0')).join('');
}

self.addEventListener('activate', (event) => event.waitUntil(clear()));

/** Drops what older builds held, but for the last one: its pages may still be open. */
async function clear() {
  await self.clients.claim();
  const held = (await caches.keys()).filter((name) => name.startsWith('cressa-') && name !== cache);
  await Promise.all(held.slice(0, -1).map((name) => caches.delete(name)));
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== location.origin || pathname.startsWith('/api/'))
    return;
  if (request.mode === 'navigate') event.respondWith(page(request));
  // A file's name is its content: which build holds it does not matter.
  else event.respondWith(caches.match(request).then((held) => held ?? fetch(request)));
});

/** The page from the network, unless that is away or half dead. */
async function page(request) {
  const fresh = fetch(request);
  const held = await caches.match('/', { cacheName: cache });
  if (!held) return fresh;
  const late = new Promise((resolve) => setTimeout(() => resolve(held), race));
  return Promise.race([fresh, late]).catch(() => held);
}
