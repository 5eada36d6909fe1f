import { useMutation, useQueryClient } from '@tanstack/react-query';
import { answer, ApiProblem, client, type Settings } from '../../api/client';
import { materialsQuery, settingsQuery } from '../../api/queries';

/** Saves settings; where they were changed elsewhere meanwhile, those are handed on. */
export function useSaveSettings(
  onSaved: (s: Settings) => void,
  onStale: (theirs: Settings) => void,
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (s: Settings) => answer(client.PUT('/api/settings', { body: s })),
    onSuccess: (saved) => {
      queries.setQueryData(settingsQuery.queryKey, saved);
      void queries.invalidateQueries({ queryKey: materialsQuery.queryKey });
      onSaved(saved);
    },
    onError: async (error) => {
      if (error instanceof ApiProblem && error.stale) {
        onStale(await queries.fetchQuery({ ...settingsQuery, staleTime: 0 }));
      }
    },
  });
}

/** The machine that is used where nothing else is said. */
export const defaultMachine = (s: Settings) =>
  s.machines.find((m) => m.id === s.machine) ?? s.machines[0]!;

/** A name for a new entry that no other has. */
export function freshID(list: { id: string }[], stem: string): string {
  for (let n = list.length + 1; ; n++) {
    const id = `${stem}${n}`;
    if (!list.some((o) => o.id === id)) return id;
  }
}
