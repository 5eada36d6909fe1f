/** The name is the service worker's too. */
const cache = 'cressa-bench';

/**
 * Puts aside what a bench needs to load anew without the network: the page, its files, and its
 * work. Over plain http from another device browsers have no place for it.
 */
export async function putAside(work: string): Promise<void> {
  if (!window.isSecureContext || !('serviceWorker' in navigator)) return;
  try {
    await navigator.serviceWorker.register('/sw.js', { scope: '/bench/' });
    const loaded = performance
      .getEntriesByType('resource')
      .map((e) => new URL(e.name).pathname)
      .filter((path) => path.startsWith('/assets/'));
    await (await caches.open(cache)).addAll([...new Set(['/', work, ...loaded])]);
  } catch {
    // A private window may refuse, or the network is away already: the open page goes on.
  }
}
