import { useEffect } from 'react';

/** The name is the service worker's too. */
const cache = 'cressa-bench';

const open = 'cressa-bench-open';

/**
 * Keeps an open bench: what it needs to load anew without the network, and where it is, so that
 * the installed application begins there again after it was closed.
 */
export function useKeptOpen(work: string): void {
  useEffect(() => {
    void putAside(work);
    localStorage.setItem(open, location.pathname);
    // Not done where the whole page is closed: only leaving the bench ends it.
    return () => localStorage.removeItem(open);
  }, [work]);
}

/** Where the bench that was open last is, if it was not left. */
export const lastOpen = (): string | null => localStorage.getItem(open);

/**
 * Puts aside what a bench needs to load anew without the network: the page, its files, and its
 * work. Over plain http from another device browsers have no place for it.
 */
async function putAside(work: string): Promise<void> {
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
