import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { ApiProblem } from '../api/client';

interface Saving<B, T, R> {
  /** Writes over the record of the given version. */
  write: (body: B, version: number) => Promise<R>;
  /** Reads what stands now. */
  reread: () => Promise<T>;
  versionOf: (record: T) => number;
  onSaved: (answer: R) => unknown;
  /** What was changed elsewhere is taken instead. */
  onTheirs: (theirs: T) => void;
}

/**
 * Saves a record over the version that was read. Where it was changed elsewhere meanwhile nothing
 * is overwritten: `theirs` holds that until one of the two is chosen.
 */
export function useSaveOver<B, T, R>({
  write,
  reread,
  versionOf,
  onSaved,
  onTheirs,
}: Saving<B, T, R>) {
  const [theirs, setTheirs] = useState<T | null>(null);
  const { mutate, error, isPending, variables } = useMutation({
    mutationFn: ({ body, version }: { body: B; version: number }) => write(body, version),
    onSuccess: onSaved,
    onError: async (e) => {
      if (e instanceof ApiProblem && e.stale) setTheirs(await reread());
    },
  });
  return {
    save: (body: B, version: number) => mutate({ body, version }),
    error,
    isPending,
    theirs,
    keepMine: () => {
      if (theirs !== null && variables)
        mutate({ body: variables.body, version: versionOf(theirs) });
      setTheirs(null);
    },
    takeTheirs: () => {
      if (theirs !== null) onTheirs(theirs);
      setTheirs(null);
    },
  };
}
