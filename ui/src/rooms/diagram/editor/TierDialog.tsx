import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Draft, Reshape } from '../../../api/client';
import { ranges } from '../../../api/ranges';
import { reshapeQuery } from '../../../api/solving';
import { NumberField } from '../../../parts/fields/NumberField';
import { FormFields, useReadable } from '../../../parts/fields/unreadable';
import { Refusal } from '../../../parts/forms/Refusal';
import { editingWords } from '../../../words/editing';
import { w } from '../../../words/words';

/** A reshaping without anything asked for. */
export const plainReshape: Omit<Reshape, 'kind'> = { by: 0, fold: 1, mirrored: false, name: '' };

interface Props {
  draft: Draft;
  tier: number;
  onKeep: (how: Reshape) => void;
  onClose: () => void;
}

/** Completes a tier by the symmetry that is chosen, and shows what it becomes before it is kept. */
export function SymmetryDialog({ draft, tier, onKeep, onClose }: Props) {
  const s = editingWords.symmetry;
  const [fold, setFold] = useState(1);
  const [mirrored, setMirrored] = useState(true);
  const { readable, report } = useReadable();
  const how: Reshape = { ...plainReshape, kind: 'complete', fold, mirrored };
  const becomes = useQuery(reshapeQuery(draft, tier, how));
  return (
    <Dialog open onClose={onClose} fullWidth>
      <DialogTitle>{s.title(draft.tiers[tier]!.name)}</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'flex', gap: 4, alignItems: 'center', pt: 2 }}>
          <FormFields value={report}>
            <NumberField
              label={s.fold}
              {...ranges.Reshape.fold}
              min={1}
              value={fold}
              onChange={setFold}
            />
          </FormFields>
          <FormControlLabel
            control={
              <Checkbox checked={mirrored} onChange={(e) => setMirrored(e.target.checked)} />
            }
            label={s.mirrored}
          />
        </Box>
        <Typography color="text.secondary" sx={{ mt: 3 }}>
          {s.becomes}
        </Typography>
        <Typography variant="figures" sx={{ overflowWrap: 'anywhere' }}>
          {becomes.data?.tiers[tier]?.indexes}
        </Typography>
        <Refusal error={becomes.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          onClick={() => onKeep(how)}
          disabled={becomes.isError || !readable}
        >
          {s.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Gives a tier another name, in the stops that mention it too. */
export function RenameDialog({ draft, tier, onKeep, onClose }: Props) {
  const r = editingWords.rename;
  const was = draft.tiers[tier]!.name;
  const [name, setName] = useState(was);
  return (
    <Dialog open onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onKeep({ ...plainReshape, kind: 'rename', name: name.trim() });
        }}
      >
        <DialogTitle>{r.title(was)}</DialogTitle>
        <DialogContent>
          <TextField
            label={r.name}
            value={name}
            autoFocus
            onChange={(e) => setName(e.target.value)}
            sx={{ mt: 2 }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{w.common.cancel}</Button>
          <Button type="submit" variant="contained" disabled={name.trim() === ''}>
            {r.keep}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
