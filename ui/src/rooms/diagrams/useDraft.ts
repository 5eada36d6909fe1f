import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { answer, ApiProblem, client, type Diagram, type Draft } from '../../api/client';
import { diagramListsKey, diagramQuery, withChange } from '../../api/queries';
import { keepStack, type Stack } from './undoStore';
import { useHistory } from './useHistory';

/** How long after the last letter a draft is saved. */
const delay = 500;

export type SaveState = 'saved' | 'unsaved' | 'saving';

/**
 * A diagram's draft in the editor: saved while it is typed, mistakes included, over the version
 * that was read. Where it was changed elsewhere meanwhile, `theirs` holds that.
 */
export function useDraft(diagram: Diagram, stack?: Stack) {
  const history = useHistory(stack ?? { past: [], present: diagram.draft, future: [] });
  const draft = history.present;
  const queries = useQueryClient();
  const [theirs, setTheirs] = useState<Diagram | null>(null);
  const [saved, setSaved] = useState({
    draft: diagram.draft,
    version: diagram.version,
    revision: diagram.revision,
    edited: diagram.edited,
  });
  const id = diagram.id;

  const store = (d: Diagram) => {
    setSaved({ draft: d.draft, version: d.version, revision: d.revision, edited: d.edited });
    queries.setQueryData(diagramQuery(id).queryKey, withChange(d));
    void queries.invalidateQueries({ queryKey: diagramListsKey });
    return d;
  };
  const onError = async (error: Error) => {
    if (error instanceof ApiProblem && error.stale) {
      setTheirs(await answer(client.GET('/api/diagrams/{id}', { params: { path: { id } } })));
    }
  };
  const save = useMutation({
    mutationFn: async (body: { draft: Draft; version: number }) =>
      store(
        await answer(client.PUT('/api/diagrams/{id}/draft', { params: { path: { id } }, body })),
      ),
    onError,
  });
  const keep = useMutation({
    mutationFn: async () => {
      let { version } = saved;
      if (draft !== saved.draft) version = (await save.mutateAsync({ draft, version })).version;
      const body = { version };
      return store(
        await answer(client.POST('/api/diagrams/{id}/keep', { params: { path: { id } }, body })),
      );
    },
    onError,
  });

  const dirty = JSON.stringify(draft) !== JSON.stringify(saved.draft);
  const idle = !save.isPending && !keep.isPending && theirs === null;
  const { mutate, isError: failed } = save;
  useEffect(() => {
    if (!dirty || !idle) return;
    // A save that failed is tried again, but not in a rush.
    const timer = setTimeout(
      () => mutate({ draft, version: saved.version }),
      failed ? 4000 : delay,
    );
    return () => clearTimeout(timer);
  }, [dirty, idle, failed, draft, saved.version, mutate]);

  const { past, present, future } = history.stack;
  useEffect(() => {
    void keepStack(id, { past, present, future });
  }, [id, past, present, future]);

  useSaveOnLeaving(id, dirty && theirs === null ? { draft, version: saved.version } : null);

  const { change } = history;
  const set = useCallback(
    (next: (d: Draft) => Draft, at = '') => change(next, at, Date.now()),
    [change],
  );
  const keepMine = () => {
    if (theirs) mutate({ draft, version: theirs.version });
    setTheirs(null);
  };
  const takeTheirs = () => {
    if (theirs) {
      store(theirs);
      set(() => theirs.draft);
    }
    setTheirs(null);
  };
  const state: SaveState = save.isPending ? 'saving' : dirty ? 'unsaved' : 'saved';
  return {
    ...history,
    draft,
    set,
    state,
    keep,
    error: save.error,
    saved,
    theirs,
    keepMine,
    takeTheirs,
  };
}

/**
 * Sends what is not saved yet when the page is left or closed. The room that comes next shows it
 * at once, and reads it again when it is on disk.
 */
function useSaveOnLeaving(id: string, unsaved: { draft: Draft; version: number } | null) {
  const latest = useRef(unsaved);
  const queries = useQueryClient();
  useEffect(() => {
    latest.current = unsaved;
  });
  useEffect(() => {
    const send = () => {
      if (!latest.current) return;
      const { draft } = latest.current;
      const body = JSON.stringify(latest.current);
      const headers = { 'Content-Type': 'application/json' };
      const { queryKey } = diagramQuery(id);
      queries.setQueryData(queryKey, (d) => d && { ...d, draft, edited: true });
      void fetch(`/api/diagrams/${id}/draft`, {
        method: 'PUT',
        body,
        headers,
        keepalive: true,
      }).finally(() => queries.invalidateQueries({ queryKey }));
      latest.current = null;
    };
    window.addEventListener('pagehide', send);
    return () => {
      window.removeEventListener('pagehide', send);
      send();
    };
  }, [id, queries]);
}
