import { useState } from 'react';
import { useUnreadable } from './unreadable';

/** What a text is that says no value. */
export const unreadable = Symbol('unreadable');

interface Notation<T> {
  read: (text: string) => T | typeof unreadable;
  write: (value: T) => string;
  same: (a: T, b: T) => boolean;
  /** The value as it was once typed, to begin with. */
  typed?: string;
}

/**
 * The text of a field that stands for a value. What is typed stays as it was typed, for as long as
 * it says what the value is; what cannot be read stays too, and holds the form up. A value that
 * changes from outside takes the place of what was typed.
 */
export function useTyped<T>(value: T, { read, write, same, typed: first }: Notation<T>) {
  const [typed, setTyped] = useState(
    first === undefined ? undefined : { text: first, over: value },
  );
  const reading = typed && read(typed.text);
  const current =
    typed !== undefined &&
    (reading === unreadable ? same(typed.over, value) : same(reading as T, value));
  const bad = current && reading === unreadable;
  useUnreadable(bad);
  return {
    text: current ? typed.text : write(value),
    bad,
    /** Takes what is typed, and returns what it says. */
    type: (text: string) => {
      setTyped({ text, over: value });
      return read(text);
    },
    /** Writes the value as it is written usually, once the field is left. */
    leave: () => !bad && setTyped(undefined),
  };
}
