import { useEffect, useState } from 'react';

/** The time in ms, kept up with twice a second while it is asked for. */
export function useNow(running: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!running) return;
    const tick = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(tick);
  }, [running]);
  return now;
}
