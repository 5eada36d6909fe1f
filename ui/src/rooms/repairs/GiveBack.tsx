import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, type Finish, type RepairPage } from '../../api/client';
import { stonesKey } from '../../api/queries';
import { NumberField } from '../../parts/NumberField';
import { Refusal } from '../../parts/Refusal';
import { date } from '../../words/numbers';
import { repairWords as r } from '../../words/repairs';
import { w } from '../../words/words';

/** Writes what was done and closes the repair; a second time it corrects that. */
export function GiveBack({ page, onClose }: { page: RepairPage; onClose: () => void }) {
  const { summary: s, intake } = page;
  const [card, setCard] = useState<Finish>(
    s.finish ?? {
      version: 0,
      roughCarats: intake.carats,
      finishedCarats: 0,
      widthMM: intake.widthMM,
      lengthMM: intake.lengthMM,
      heightMM: intake.heightMM,
      started: date(page.told[0]?.at ?? s.created),
      finished: date(new Date().toISOString()),
      hours: null,
      notes: '',
      saved: s.created,
    },
  );
  const queries = useQueryClient();
  const save = useMutation({
    mutationFn: () =>
      answer(client.PUT('/api/stones/{id}/finish', { params: { path: { id: s.id } }, body: card })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: stonesKey });
      onClose();
    },
  });
  return (
    <Dialog open onClose={onClose} fullWidth>
      <DialogTitle>{r.backTitle}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', pt: 2 }}>
          <NumberField
            label={r.weightAfter}
            unit="ct"
            min={0}
            max={100000}
            value={card.finishedCarats}
            onChange={(finishedCarats) => setCard({ ...card, finishedCarats })}
          />
          <TextField
            type="date"
            label={r.given}
            value={card.finished}
            onChange={(e) => setCard({ ...card, finished: e.target.value })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            label={r.notes}
            value={card.notes}
            onChange={(e) => setCard({ ...card, notes: e.target.value })}
            multiline
            minRows={3}
            fullWidth
          />
        </Box>
        <Refusal error={save.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button variant="contained" onClick={() => save.mutate()} disabled={save.isPending}>
          {r.back}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
