import { useCallback, useState } from 'react';

interface History<T> {
  past: T[];
  present: T;
  future: T[];
  /** What the last change was to; typing on in one field is one step. */
  at: string;
  when: number;
}

/** A pause in typing after which the next letter is a step of its own. */
const pause = 1500;
const deepest = 200;

/** A value with undo and redo: a stack of whole values. It can begin with one that was kept. */
export function useHistory<T>(first: { past: T[]; present: T; future: T[] }) {
  const [h, setHistory] = useState<History<T>>({ ...first, at: '', when: 0 });
  const change = useCallback((next: (t: T) => T, at: string, now: number) => {
    setHistory((h) => {
      const present = next(h.present);
      const typing = at !== '' && at === h.at && now - h.when < pause;
      const past = typing ? h.past : [...h.past, h.present].slice(-deepest);
      return { past, present, future: [], at, when: now };
    });
  }, []);
  const undo = useCallback(
    () =>
      setHistory((h) => {
        const before = h.past.at(-1);
        if (before === undefined) return h;
        return {
          past: h.past.slice(0, -1),
          present: before,
          future: [h.present, ...h.future],
          at: '',
          when: 0,
        };
      }),
    [],
  );
  const redo = useCallback(
    () =>
      setHistory((h) => {
        const [after, ...future] = h.future;
        if (after === undefined) return h;
        return { past: [...h.past, h.present], present: after, future, at: '', when: 0 };
      }),
    [],
  );
  return {
    stack: h,
    present: h.present,
    change,
    undo,
    redo,
    canUndo: h.past.length > 0,
    canRedo: h.future.length > 0,
  };
}
