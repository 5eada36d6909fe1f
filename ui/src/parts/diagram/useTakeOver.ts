import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Diagram, DiagramPage, Draft } from '../../api/client';
import { draftRecord, rereadDiagrams, varyDiagram } from '../../api/diagrams';
import { keptDrafts } from '../../drafts/browser';
import { useSaveOver } from '../forms/useSaveOver';
import { useNotice } from '../notice';

export type TakeOver = ReturnType<typeof useTakeOver>;

/**
 * What can be done with a changed draft of a diagram: it becomes the draft, which `done` tells, or
 * a variant. `TakeOverState` shows what becomes of it.
 */
export function useTakeOver(d: Diagram, done: string) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const say = useNotice();
  const [wanted, setWanted] = useState<Draft>();
  const vary = useMutation(varyDiagram);
  const taking = useSaveOver<Draft, DiagramPage, void>(
    {
      ...draftRecord(d.id),
      write: async (draft, version) => {
        await draftRecord(d.id).write(draft, version);
        // A step of the editor's own, so that undo leads back from it.
        await keptDrafts.append(d.id, d.draft, draft);
      },
    },
    {
      onSaved: async () => {
        await rereadDiagrams(queries);
        say({ text: done });
        void navigate(`/diagrams/${d.id}?edit=1`);
      },
      onTheirs: () => rereadDiagrams(queries),
    },
  );
  return {
    asVariant: (draft: Draft) =>
      vary.mutate(
        { id: d.id, draft },
        { onSuccess: (made) => void navigate(`/diagrams/${made.id}`) },
      ),
    into: (draft: Draft) => {
      setWanted(draft);
      taking.save(draft, d.version);
    },
    taking,
    /** The draft that was to be taken. */
    wanted,
    busy: vary.isPending || taking.isPending,
    error: vary.error ?? taking.error,
  };
}
