import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { w } from '../../words/words';

/** Adds a note to a stone's log. */
export function NoteDialog({ add, onClose }: { add: StoneLog['add']; onClose: () => void }) {
  const [text, setText] = useState('');
  return (
    <Dialog open onClose={onClose} fullWidth>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (!text.trim()) return;
          add([{ kind: 'note', payload: { text: text.trim() } }]);
          onClose();
        }}
      >
        <DialogTitle>{w.bench.noteTitle}</DialogTitle>
        <DialogContent>
          <TextField
            autoFocus
            fullWidth
            value={text}
            onChange={(e) => setText(e.target.value)}
            slotProps={{ htmlInput: { 'aria-label': w.bench.note, maxLength: 2000 } }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{w.common.cancel}</Button>
          <Button type="submit" variant="contained" disabled={!text.trim()}>
            {w.bench.noteKeep}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
