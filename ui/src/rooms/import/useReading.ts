import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { ReadFile } from '../../api/client';
import { readTable, type HowToRead } from '../../api/solving';

/** How long after the last letter a text is read again, in ms. */
const delay = 350;

/** A text that is read again while it is corrected; what is typed stays whatever becomes of it. */
export function useReading(
  name: string,
  text: string,
  read: ReadFile,
  onRead: (read: ReadFile, text: string) => void,
) {
  const [typed, setTyped] = useState(text);
  const [how, setHow] = useState<HowToRead>({ angles: 0, width: read.draft.width });
  const asking = useMutation({
    mutationFn: (ask: { text: string; how: HowToRead }) => readTable(name, ask.text, ask.how),
  });
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  // Only the answer to the newest text counts.
  const newest = useRef(0);
  useEffect(() => () => clearTimeout(timer.current), []);
  const soon = (next: { text: string; how: HowToRead }) => {
    clearTimeout(timer.current);
    const turn = ++newest.current;
    timer.current = setTimeout(
      () =>
        asking.mutate(next, {
          onSuccess: (answer) => turn === newest.current && onRead(answer, next.text),
        }),
      delay,
    );
  };
  return {
    typed,
    how,
    error: asking.error,
    type: (next: string) => {
      setTyped(next);
      soon({ text: next, how });
    },
    read: (next: HowToRead) => {
      setHow(next);
      soon({ text: typed, how: next });
    },
  };
}
