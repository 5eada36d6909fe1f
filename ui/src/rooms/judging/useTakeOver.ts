import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { answer, client, type Diagram, type Draft } from '../../api/client';
import { diagramListsKey, diagramsKey } from '../../api/queries';
import { useNotice } from '../../app/notice';
import { keepStack, keptStack } from '../diagrams/undoStore';

/** What can be done with a changed draft of a diagram: it becomes the draft, or a variant. */
export function useTakeOver(d: Diagram) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const say = useNotice();
  const save = async (id: string, draft: Draft, version: number) =>
    answer(
      client.PUT('/api/diagrams/{id}/draft', {
        params: { path: { id } },
        body: { draft, version },
      }),
    );
  const vary = useMutation({
    mutationFn: async (draft: Draft) => {
      const path = { params: { path: { id: d.id } } };
      const made = await answer(client.POST('/api/diagrams/{id}/variant', path));
      const saved = await save(made.id, draft, made.version);
      return answer(
        client.POST('/api/diagrams/{id}/keep', {
          params: { path: { id: made.id } },
          body: { version: saved.version },
        }),
      );
    },
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: diagramListsKey });
      void navigate(`/diagrams/${made.id}`);
    },
  });
  const take = useMutation({
    mutationFn: async ({ draft }: { draft: Draft; said: string }) => {
      const saved = await save(d.id, draft, d.version);
      // A step of the editor's own, so that undo leads back from it.
      const stack = await keptStack(d.id, d.draft);
      const past = [...(stack?.past ?? []), stack?.present ?? d.draft];
      await keepStack(d.id, { past, present: saved.draft, future: [] });
    },
    onSuccess: async (_, { said }) => {
      await queries.invalidateQueries({ queryKey: diagramsKey });
      say({ text: said });
      void navigate(`/diagrams/${d.id}?edit=1`);
    },
  });
  return {
    asVariant: (draft: Draft) => vary.mutate(draft),
    into: (draft: Draft, said: string) => take.mutate({ draft, said }),
    busy: vary.isPending || take.isPending,
    error: vary.error ?? take.error,
  };
}
