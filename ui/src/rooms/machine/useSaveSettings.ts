import { useQueryClient } from '@tanstack/react-query';
import { answer, client, type Settings } from '../../api/client';
import { materialsQuery, settingsQuery } from '../../api/queries';
import { useSaveOver } from '../../parts/useSaveOver';

/** Saves settings. Once they are answered, the questions of a first opening do not come again. */
export function useSaveSettings(
  onSaved: (s: Settings) => void,
  onTheirs: (theirs: Settings) => void,
) {
  const queries = useQueryClient();
  return useSaveOver({
    write: (s: Settings, version) =>
      answer(client.PUT('/api/settings', { body: { ...s, answered: true, version } })),
    reread: () => queries.fetchQuery({ ...settingsQuery, staleTime: 0 }),
    versionOf: (s) => s.version,
    onSaved: (saved) => {
      queries.setQueryData(settingsQuery.queryKey, saved);
      void queries.invalidateQueries({ queryKey: materialsQuery.queryKey });
      onSaved(saved);
    },
    onTheirs,
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
