import { useEffect, useState } from 'react';
import { remember, remembered } from '../../log/remember';

/**
 * A clock that runs down. When it ends is remembered in this browser: it goes on while the page is
 * closed. Times are in ms; left is undefined while it does not run, and 0 once it has run down.
 */
export function useTimer(key: string) {
  const [end, setEnd] = useState<number | undefined>(() => Number(remembered(key)) || undefined);
  const [now, setNow] = useState(() => Date.now());
  const running = end !== undefined && end > now;
  useEffect(() => {
    if (!running) return;
    const tick = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(tick);
  }, [running]);
  const set = (at: number | undefined) => {
    remember(key, at === undefined ? null : String(at));
    setEnd(at);
    setNow(Date.now());
  };
  return {
    left: end === undefined ? undefined : Math.max(0, end - now),
    start: (minutes: number) => set(Date.now() + minutes * 60_000),
    stop: () => set(undefined),
  };
}
