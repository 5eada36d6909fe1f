import { createContext, useContext, useEffect, useId, useMemo, useState } from 'react';

type Report = (field: string, bad: boolean) => void;

const UnreadableContext = createContext<Report>(() => {});

/** Where the fields of a form say that they cannot be read: around them, its value from `useReadable`. */
export const FormFields = UnreadableContext.Provider;

/** Tells the form around a field whether what is typed there cannot be read. */
export function useUnreadable(bad: boolean): void {
  const report = useContext(UnreadableContext);
  const id = useId();
  useEffect(() => {
    report(id, bad);
    return () => report(id, false);
  }, [report, id, bad]);
}

/** Whether all fields of a form can be read, so that nothing else than what is seen is saved. */
export function useReadable(): { readable: boolean; report: Report } {
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  const report = useMemo<Report>(
    () => (field, isBad) =>
      setBad((all) => {
        if (all.has(field) === isBad) return all;
        const next = new Set(all);
        if (isBad) next.add(field);
        else next.delete(field);
        return next;
      }),
    [],
  );
  return { readable: bad.size === 0, report };
}
