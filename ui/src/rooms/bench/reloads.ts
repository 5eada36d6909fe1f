import { useEffect, useState } from 'react';
import { rememberOpen } from '../../log/lastOpen';
import { isKept } from '../../log/works';

/**
 * Notes that a bench is open, so that the installed application begins there again after it was
 * closed.
 */
export function useKeptOpen(): void {
  useEffect(() => {
    rememberOpen(location.pathname);
    // The browser may clear what it keeps for other pages first.
    void navigator.storage?.persist?.().catch(() => false);
    // Not done where the whole page is closed: only leaving the bench ends it.
    return () => rememberOpen(null);
  }, []);
}

/** Whether the page could be loaded anew without the network; undefined until that is known. */
export function useReloads(path: string): boolean | undefined {
  const [reloads, setReloads] = useState<boolean>();
  useEffect(() => {
    let over = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async () => {
      const now = (await isInstalled()) && (await isKept(path));
      if (over) return;
      setReloads(now);
      // It becomes so within seconds of the first visit, and then stays so.
      if (!now) timer = setTimeout(() => void look(), 1000);
    };
    void look();
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [path]);
  return reloads;
}

/** Whether the service worker stands before this page and holds every file that it has loaded. */
async function isInstalled(): Promise<boolean> {
  if (!window.isSecureContext || !navigator.serviceWorker?.controller) return false;
  const loaded = performance
    .getEntriesByType('resource')
    .map((e) => new URL(e.name).pathname)
    .filter((path) => path.startsWith('/assets/'));
  const held = await Promise.all(['/', ...new Set(loaded)].map((path) => caches.match(path)));
  return held.every(Boolean);
}
