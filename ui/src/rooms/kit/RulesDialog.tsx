import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Settings } from '../../api/client';
import { kitKey } from '../../api/kit';
import { ranges } from '../../api/ranges';
import { reread } from '../../api/refresh';
import { settingsQuery } from '../../api/settings';
import { NumberField } from '../../parts/fields/NumberField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { useSaveSettings } from '../../parts/settings/useSaveSettings';
import { kitWords } from '../../words/kit';
import { plain } from '../../words/numbers';
import { w } from '../../words/words';

const k = kitWords.abrasives;

type Rules = Settings['abrasives'];

const rows: [field: keyof Rules, unit: string][][] = [
  [
    ['damageLow', k.grains],
    ['damageHigh', k.grains],
  ],
  [
    ['cutRatio', k.times],
    ['polishRatio', k.times],
  ],
  [
    ['softBelow', k.mohs],
    ['smearBelow', k.mohs],
    ['coarser', k.times],
  ],
];

const linesOf = ({ abrasives }: Settings) =>
  rows.flat().map(([field, unit]) => `${k[field]}: ${plain(abrasives[field])} ${unit}`);

/** What a ladder is held to, and what counts as dirt. */
export function RulesDialog({ onClose }: { onClose: () => void }) {
  const settings = useQuery(settingsQuery).data;
  return settings ? <Rules settings={settings} onClose={onClose} /> : null;
}

function Rules({ settings, onClose }: { settings: Settings; onClose: () => void }) {
  const [draft, setDraft] = useState(settings);
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const say = useNotice();
  const saving = useSaveSettings(() => {
    void reread(queries, kitKey);
    say({ text: kitWords.saved });
    onClose();
  }, setDraft);
  return (
    <Dialog open onClose={onClose} maxWidth="md">
      <DialogTitle>{k.title}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 4, maxWidth: 560 }}>{k.lead}</Typography>
        <FormFields value={report}>
          <Box sx={{ display: 'grid', gap: 4 }}>
            {rows.map((row) => (
              <Row key={row[0]![0]}>
                {row.map(([field, unit]) => (
                  <NumberField
                    key={field}
                    label={k[field]}
                    unit={unit}
                    {...ranges.Abrasives[field]}
                    value={draft.abrasives[field]}
                    onChange={(v) =>
                      setDraft({ ...draft, abrasives: { ...draft.abrasives, [field]: v } })
                    }
                    width={260}
                  />
                ))}
              </Row>
            ))}
          </Box>
        </FormFields>
        <Refusal error={saving.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!readable || saving.isPending}
          onClick={() => saving.save(draft, draft.version)}
        >
          {kitWords.save}
        </Button>
      </DialogActions>
      <SaveConflict saving={saving} mine={linesOf(draft)} linesOf={linesOf} />
    </Dialog>
  );
}
