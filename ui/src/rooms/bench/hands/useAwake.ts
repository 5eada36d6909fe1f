import { useEffect, useState } from 'react';

/**
 * Keeps the screen on while the caller is there. Undefined until that is known, false where the browser
 * does not do it: it may know no lock, or give none to a page over plain http.
 */
export function useAwake(): boolean | undefined {
  // Browsers without a lock have no such field, whatever the types say.
  const locks = navigator.wakeLock as WakeLock | undefined;
  const [awake, setAwake] = useState<boolean | undefined>(locks ? undefined : false);
  useEffect(() => {
    if (!locks) return;
    let over = false;
    let lock: WakeLockSentinel | undefined;
    // The browser lets go of it whenever the page is hidden.
    const take = async () => {
      if (document.hidden) return;
      try {
        lock = await locks.request('screen');
        if (over) void lock.release();
        else setAwake(true);
      } catch {
        if (!over) setAwake(false);
      }
    };
    const shown = () => void take();
    void take();
    document.addEventListener('visibilitychange', shown);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', shown);
      void lock?.release();
    };
  }, [locks]);
  return awake;
}
