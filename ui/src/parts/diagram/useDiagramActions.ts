import { useMutation } from '@tanstack/react-query';
import {
  copyDiagram,
  createDiagram,
  keepDiagram,
  removeDiagram,
  restoreDiagram,
  varyDiagram,
} from '../../api/diagrams';
import { w } from '../../words/words';
import { whyRefused } from '../forms/Refusal';
import { useNotice } from '../notice';

/** What can be done with a diagram as a whole. */
export function useDiagramActions() {
  const say = useNotice();
  // Said in passing: the page that asked may be left by then.
  const onError = (e: Error) => say({ text: whyRefused(e) });
  const restore = useMutation({ ...restoreDiagram, onError });
  const keep = useMutation(keepDiagram);
  const remove = useMutation({ ...removeDiagram, onError });
  return {
    create: useMutation(createDiagram),
    vary: useMutation(varyDiagram),
    copy: useMutation({ ...copyDiagram, onError }),
    keep: {
      ...keep,
      mutate: (d: Parameters<typeof keep.mutate>[0]) =>
        keep.mutate(d, { onSuccess: () => say({ text: w.diagrams.kept }) }),
    },
    restore: (id: string) => restore.mutate(id),
    remove: (d: { id: string; name: string }, then?: () => void) =>
      remove.mutate(d, {
        onSuccess: () => {
          say({
            text: w.diagrams.deleted(d.name || w.diagrams.noName),
            action: { label: w.common.undo, run: () => restore.mutate(d.id) },
          });
          then?.();
        },
      }),
  };
}
