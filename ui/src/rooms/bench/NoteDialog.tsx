import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Visit } from '../../log/events';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { w } from '../../words/words';

interface Props {
  add: StoneLog['add'];
  /** The visit that is on the screen, and what it is called. */
  at?: Visit | undefined;
  facet?: string;
  onClose: () => void;
}

/** Adds a note to a stone's log, at the facet that is being cut. */
export function NoteDialog({ add, at, facet, onClose }: Props) {
  const [text, setText] = useState('');
  return (
    <Dialog open onClose={onClose} fullWidth>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (!text.trim()) return;
          add([{ kind: 'note', payload: { text: text.trim(), ...(at && { at }) } }]);
          onClose();
        }}
      >
        <DialogTitle>{facet ? w.bench.noteAt(facet) : w.bench.noteTitle}</DialogTitle>
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
