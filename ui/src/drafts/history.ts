/** One state of a value that undo and redo lead through, numbered in the order of the changes. */
export interface Step<T> {
  no: number;
  value: T;
}

/** A value with undo and redo: all its states as whole values. */
export interface History<T> {
  past: readonly Step<T>[];
  present: Step<T>;
  future: readonly Step<T>[];
  /** What the last change was to, and when, in ms; typing on in one field is one step. */
  at: string;
  when: number;
}

/** A pause in typing, in ms, after which the next letter is a step of its own. */
const pause = 1500;
/** Steps that can be taken back. A draft of 400 tiers takes some 60 kB, so these stay under 12 MB. */
export const deepest = 200;

const still = { at: '', when: 0 };

/** A history that begins with a value. */
export const historyOf = <T>(value: T): History<T> => ({
  past: [],
  present: { no: 0, value },
  future: [],
  ...still,
});

/**
 * Changes the value. `at` names the field that is typed in: changes of one field that follow each
 * other without a pause are one step. '' is a step of its own.
 */
export function change<T>(h: History<T>, value: T, at: string, now: number): History<T> {
  if (at !== '' && at === h.at && now - h.when < pause)
    return { ...h, present: { no: h.present.no, value }, future: [], when: now };
  return {
    past: [...h.past, h.present].slice(-deepest),
    present: { no: h.present.no + 1, value },
    future: [],
    at,
    when: now,
  };
}

/** The history before its last step; itself where there is none. */
export function undo<T>(h: History<T>): History<T> {
  const before = h.past.at(-1);
  if (before === undefined) return h;
  return { past: h.past.slice(0, -1), present: before, future: [h.present, ...h.future], ...still };
}

/** The history with the step that was taken back last; itself where there is none. */
export function redo<T>(h: History<T>): History<T> {
  const [after, ...future] = h.future;
  if (after === undefined) return h;
  return { past: [...h.past, h.present], present: after, future, ...still };
}
