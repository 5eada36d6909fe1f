import { useState } from 'react';
import { useSearchParams } from 'react-router';

/**
 * What a list is filtered by. The fields hold the filter; the address remembers it, so that Back
 * and a reload find it again, and follows too late to type into. `none` filters nothing.
 */
export function useFilter<F extends Record<string, string>>(
  none: F,
): [F, (change: Partial<F>) => void] {
  const [params, keep] = useSearchParams();
  const [filter, setFilter] = useState<F>(() => ({
    ...none,
    ...Object.fromEntries([...params].filter(([name]) => name in none)),
  }));
  const change = (some: Partial<F>) => {
    const next = { ...filter, ...some };
    setFilter(next);
    keep(
      Object.entries(next).filter(([, value]) => value !== ''),
      { replace: true },
    );
  };
  return [filter, change];
}
