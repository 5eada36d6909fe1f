import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { RepairPage } from '../../api/client';
import { ranges } from '../../api/ranges';
import { repairCardRecord, rereadStones, storeRepair, type Card } from '../../api/stones';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { NumberField } from '../../parts/fields/NumberField';
import { Refusal } from '../../parts/forms/Refusal';
import { carats, date, sizes } from '../../words/numbers';
import { repairWords as r } from '../../words/repairs';
import { w } from '../../words/words';

/** Writes what was done and closes the repair; a second time it corrects that. */
export function GiveBack({ page, onClose }: { page: RepairPage; onClose: () => void }) {
  const { summary: s } = page;
  const [card, setCard] = useState(() => cardOf(page));
  const set = (change: Partial<Card>) => setCard({ ...card, ...change });
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const saving = useSaveOver(repairCardRecord(s.id), {
    onSaved: () => {
      void rereadStones(queries);
      onClose();
    },
    onTheirs: (theirs) => {
      storeRepair(queries, theirs);
      onClose();
    },
  });
  return (
    <Dialog open onClose={onClose} fullWidth>
      <DialogTitle>{r.backTitle}</DialogTitle>
      <DialogContent>
        <FormFields value={report}>
          <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', pt: 2 }}>
            <NumberField
              label={r.weightAfter}
              unit="ct"
              {...ranges.Finish.finishedCarats}
              value={card.finishedCarats}
              onChange={(finishedCarats) => set({ finishedCarats })}
            />
            {(
              [
                ['lengthMM', r.length],
                ['widthMM', r.width],
                ['heightMM', r.height],
              ] as const
            ).map(([name, label]) => (
              <NumberField
                key={name}
                label={label}
                unit="mm"
                {...ranges.Finish[name]}
                value={card[name]}
                onChange={(v) => set({ [name]: v })}
                width={120}
              />
            ))}
            <TextField
              type="date"
              label={r.given}
              value={card.finished}
              onChange={(e) => set({ finished: e.target.value })}
              slotProps={{ inputLabel: { shrink: true } }}
            />
            <TextField
              label={r.notes}
              value={card.notes}
              onChange={(e) => set({ notes: e.target.value })}
              multiline
              minRows={3}
              fullWidth
            />
          </Box>
        </FormFields>
        <Refusal error={saving.error} />
        <SaveConflict
          saving={saving}
          mine={linesOf(card)}
          linesOf={(theirs) => linesOf(cardOf(theirs))}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          onClick={() => saving.save(card, s.finish?.version ?? 0)}
          disabled={!readable || saving.isPending}
        >
          {r.back}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What stands on the card, or what it begins with. */
function cardOf({ summary: s, intake, history }: RepairPage): Card {
  if (s.finish) return s.finish;
  return {
    roughCarats: intake.carats,
    finishedCarats: 0,
    widthMM: intake.widthMM,
    lengthMM: intake.lengthMM,
    heightMM: intake.heightMM,
    started: date(history[0]?.at ?? s.created),
    finished: date(new Date()),
    hours: null,
    notes: '',
    price: 0,
    currency: '',
  };
}

/** What this dialog asks for, in lines. */
const linesOf = (c: Card): string[] => [
  `${r.weightAfter}: ${carats(c.finishedCarats)}`,
  `${r.sizeAfter}: ${sizes(c.lengthMM, c.widthMM, c.heightMM)}`,
  `${r.given}: ${c.finished}`,
  `${r.notes}: ${c.notes}`,
];
