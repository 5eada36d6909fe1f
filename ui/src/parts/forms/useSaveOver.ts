import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { isStale } from '../../api/client';
import type { Versioned } from '../../api/versioned';

interface Outcome<Page, Written> {
  onSaved: (written: Written) => unknown;
  /** What was changed elsewhere is taken instead. */
  onTheirs: (theirs: Page) => void;
}

export interface Saving<Body, Page> {
  save: (body: Body, version: number) => void;
  error: Error | null;
  isPending: boolean;
  /** What was saved elsewhere meanwhile, until one of the two is chosen. */
  theirs: Page | null;
  keepMine: () => void;
  takeTheirs: () => void;
}

/**
 * Saves a record over the version that was read. Where it was changed elsewhere meanwhile nothing
 * is overwritten: `SaveConflict` shows both and one is chosen.
 */
export function useSaveOver<Body, Page, Written>(
  record: Versioned<Body, Page, Written>,
  { onSaved, onTheirs }: Outcome<Page, Written>,
): Saving<Body, Page> {
  const [theirs, setTheirs] = useState<Page | null>(null);
  const { mutate, error, isPending, variables } = useMutation({
    mutationFn: async ({ body, version }: { body: Body; version: number }) => {
      try {
        return { written: await record.write(body, version) };
      } catch (e) {
        if (!isStale(e)) throw e;
        setTheirs(await record.read());
        return undefined;
      }
    },
    onSuccess: (done) => done && onSaved(done.written),
  });
  return {
    save: (body, version) => mutate({ body, version }),
    error,
    isPending,
    theirs,
    keepMine: () => {
      if (theirs !== null && variables)
        mutate({ body: variables.body, version: record.versionOf(theirs) });
      setTheirs(null);
    },
    takeTheirs: () => {
      if (theirs !== null) onTheirs(theirs);
      setTheirs(null);
    },
  };
}
