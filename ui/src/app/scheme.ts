import { createContext, useContext, useState } from 'react';
import type { Scheme } from '../theme/theme';

interface SchemeState {
  scheme: Scheme;
  toggle: () => void;
}

export const SchemeContext = createContext<SchemeState>({ scheme: 'light', toggle: () => {} });

export const useScheme = (): SchemeState => useContext(SchemeContext);

const key = 'cressa-scheme';

/** Light or dark: what was chosen here last, else what the system asks for. */
export function useSchemeState(): SchemeState {
  const [scheme, setScheme] = useState<Scheme>(() => {
    const chosen = localStorage.getItem(key);
    if (chosen === 'light' || chosen === 'dark') return chosen;
    return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
  });
  const toggle = () => {
    const next = scheme === 'light' ? 'dark' : 'light';
    localStorage.setItem(key, next);
    setScheme(next);
  };
  return { scheme, toggle };
}
