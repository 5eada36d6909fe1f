import { useCallback, useLayoutEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';

/** The key of the selected tier, and what selects another one. The page's address holds it. */
export function useSelectedTier(): [string | null, (key: string | null) => void] {
  const [params, setParams] = useSearchParams();
  const selected = params.get('tier');
  // The same function for good: a new one would draw the drawings anew.
  const latest = useRef({ params, setParams });
  useLayoutEffect(() => {
    latest.current = { params, setParams };
  });
  const select = useCallback((key: string | null) => {
    const { params: now, setParams: set } = latest.current;
    if (now.get('tier') === key) return;
    const next = new URLSearchParams(now);
    if (key === null) next.delete('tier');
    else next.set('tier', key);
    set(next, { replace: true, preventScrollReset: true });
  }, []);
  return [selected, select];
}
