import { createContext, useContext, useState, useSyncExternalStore } from 'react';
import type { Scheme } from '../theme/theme';
import { remember, remembered } from '../log/remember';

interface SchemeState {
  scheme: Scheme;
  toggle: () => void;
}

export const SchemeContext = createContext<SchemeState>({ scheme: 'light', toggle: () => {} });

export const useScheme = (): SchemeState => useContext(SchemeContext);

const key = 'cressa-scheme';
const asked = window.matchMedia('(prefers-color-scheme: dark)');

function listen(changed: () => void) {
  asked.addEventListener('change', changed);
  return () => asked.removeEventListener('change', changed);
}

/** Light or dark: what was chosen here last, else what the system asks for. */
export function useSchemeState(): SchemeState {
  const system = useSyncExternalStore(listen, () => (asked.matches ? 'dark' : 'light'));
  const [chosen, setChosen] = useState(() => remembered(key));
  const scheme = chosen === 'light' || chosen === 'dark' ? chosen : system;
  const toggle = () => {
    const next = scheme === 'light' ? 'dark' : 'light';
    remember(key, next);
    setChosen(next);
  };
  return { scheme, toggle };
}
