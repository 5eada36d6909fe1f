/**
 * Installs the service worker, which holds the application for when the network is away. Over
 * plain http from another device browsers have no place for it.
 */
export function install(): void {
  if (!import.meta.env.PROD || !window.isSecureContext || !('serviceWorker' in navigator)) return;
  void navigator.serviceWorker.register('/sw.js').catch(() => {
    // A private window may refuse, or the network is away already: the open page goes on.
  });
  void dropOlder();
}

/** Before it held the whole application, a worker of the same file stood before the bench alone. */
async function dropOlder(): Promise<void> {
  for (const r of await navigator.serviceWorker.getRegistrations())
    if (new URL(r.scope).pathname === '/bench/') await r.unregister();
}
