import { useMutation, useQueryClient } from '@tanstack/react-query';
import { answer, client, type Diagram } from '../../api/client';
import { diagramListsKey, diagramsKey } from '../../api/queries';
import { useNotice } from '../../app/notice';
import { w } from '../../words/words';

/** What can be done with a diagram as a whole. */
export function useDiagramActions() {
  const queries = useQueryClient();
  const say = useNotice();
  const refresh = () => queries.invalidateQueries({ queryKey: diagramsKey });
  const at = (id: string) => ({ params: { path: { id } } });
  const restore = useMutation({
    mutationFn: (id: string) => answer(client.POST('/api/diagrams/{id}/restore', at(id))),
    onSuccess: refresh,
  });
  return {
    create: useMutation({
      mutationFn: () => answer(client.POST('/api/diagrams')),
      onSuccess: refresh,
    }),
    vary: useMutation({
      mutationFn: (id: string) => answer(client.POST('/api/diagrams/{id}/variant', at(id))),
      onSuccess: refresh,
    }),
    copy: useMutation({
      mutationFn: (id: string) => answer(client.POST('/api/diagrams/{id}/copy', at(id))),
      onSuccess: refresh,
    }),
    keep: useMutation({
      mutationFn: (d: Diagram) =>
        answer(
          client.POST('/api/diagrams/{id}/keep', { ...at(d.id), body: { version: d.version } }),
        ),
      onSuccess: () => {
        say({ text: w.diagrams.kept });
        return refresh();
      },
    }),
    remove: useMutation({
      mutationFn: (d: { id: string; name: string }) =>
        answer(client.DELETE('/api/diagrams/{id}', at(d.id))),
      onSuccess: (_, d) => {
        say({
          text: w.diagrams.deleted(d.name || w.diagrams.noName),
          action: { label: w.common.undo, run: () => restore.mutate(d.id) },
        });
        // Only the list: the page of what was deleted must not ask for it again.
        return queries.invalidateQueries({ queryKey: diagramListsKey });
      },
    }),
  };
}
