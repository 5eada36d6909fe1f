import { useQueryClient } from '@tanstack/react-query';
import type { Settings } from '../../api/client';
import { settingsRecord, storeSettings } from '../../api/settings';
import { useSaveOver } from '../forms/useSaveOver';

/** Saves settings. The callbacks get what stands then: what was saved here, or elsewhere. */
export function useSaveSettings(
  onSaved: (saved: Settings) => void,
  onTheirs: (theirs: Settings) => void,
) {
  const queries = useQueryClient();
  const stored = (then: (s: Settings) => void) => (s: Settings) => {
    storeSettings(queries, s);
    then(s);
  };
  return useSaveOver(settingsRecord, { onSaved: stored(onSaved), onTheirs: stored(onTheirs) });
}
