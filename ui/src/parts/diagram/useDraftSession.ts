import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState, useSyncExternalStore } from 'react';
import type { Diagram, Draft } from '../../api/client';
import { keepDraft, readDiagram, saveDraft, storeDiagram, storeDraft } from '../../api/diagrams';
import { keptDrafts } from '../../drafts/browser';
import type { History } from '../../drafts/history';
import { DraftSession } from '../../drafts/session';

/**
 * What this browser kept of a draft's history, undefined until that was looked for: undo survives a reload, and comes
 * back before anything can be typed.
 */
export function useKeptHistory(
  diagram: Diagram,
): { history: History<Draft> | undefined } | undefined {
  const kept = useQuery({
    queryKey: ['kept draft', diagram.id],
    queryFn: async () => ({ history: await keptDrafts.read(diagram.id, diagram.draft) }),
    staleTime: Infinity,
    gcTime: 0,
  });
  return kept.data;
}

/** The draft of a diagram in the editor, from the history that this browser has kept of it. */
export function useDraftSession(diagram: Diagram, history: History<Draft> | undefined) {
  const queries = useQueryClient();
  const [session] = useState(
    () =>
      new DraftSession(
        diagram,
        history,
        {
          save: (draft, version, closing) => saveDraft(diagram.id, draft, version, closing),
          keep: (version) => keepDraft(diagram.id, version),
          read: () => readDiagram(diagram.id),
        },
        keptDrafts,
        (d) => storeDiagram(queries, d),
      ),
  );
  useEffect(() => {
    const close = () => session.leave(true);
    window.addEventListener('pagehide', close);
    return () => {
      window.removeEventListener('pagehide', close);
      // The room that comes next shows the draft at once.
      if (session.snapshot().state !== 'saved')
        storeDraft(queries, diagram.id, session.snapshot().draft);
      session.leave(false);
    };
  }, [session, queries, diagram.id]);
  return { ...useSyncExternalStore(session.subscribe, session.snapshot), session };
}
