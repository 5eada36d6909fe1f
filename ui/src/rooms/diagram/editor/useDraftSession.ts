import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState, useSyncExternalStore } from 'react';
import type { Diagram, Draft } from '../../../api/client';
import { keepDraft, readDiagram, saveDraft, storeDiagram, storeDraft } from '../../../api/diagrams';
import { keptDrafts } from '../../../drafts/browser';
import type { History } from '../../../drafts/history';
import { DraftSession } from '../../../drafts/session';

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
