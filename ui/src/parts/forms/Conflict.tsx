import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { w } from '../../words/words';
import type { Saving } from './useSaveOver';

/** One of two versions of a record, in lines that can be compared. */
export type Lines = string[];

interface Props {
  mine: Lines;
  theirs: Lines;
  onMine: () => void;
  onTheirs: () => void;
}

/** A record was changed in two places: both are shown, and one is chosen. */
export function Conflict({ mine, theirs, onMine, onTheirs }: Props) {
  return (
    <Dialog open maxWidth="md" fullWidth>
      <DialogTitle>{w.conflict.title}</DialogTitle>
      <DialogContent>
        <Typography gutterBottom>{w.conflict.text}</Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 4 }}>
          <Version head={w.conflict.mineHead} lines={mine} other={theirs} />
          <Version head={w.conflict.theirsHead} lines={theirs} other={mine} />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onTheirs}>{w.conflict.theirs}</Button>
        <Button variant="contained" onClick={onMine}>
          {w.conflict.mine}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** The conflict of a form that was saved over what somebody else has changed. */
export function SaveConflict<Body, Page>({
  saving,
  mine,
  linesOf,
}: {
  saving: Saving<Body, Page>;
  /** What stands in the form. */
  mine: Lines;
  /** What was saved elsewhere, in the same lines. */
  linesOf: (theirs: Page) => Lines;
}) {
  if (saving.theirs === null) return null;
  return (
    <Conflict
      mine={mine}
      theirs={linesOf(saving.theirs)}
      onMine={saving.keepMine}
      onTheirs={saving.takeTheirs}
    />
  );
}

/** One version; the lines that the other has not are set apart. */
function Version({ head, lines, other }: { head: string; lines: Lines; other: Lines }) {
  return (
    <Box sx={{ border: 1, borderColor: 'divider', p: 3, overflow: 'auto', maxHeight: 320 }}>
      <Typography variant="h3" gutterBottom>
        {head}
      </Typography>
      {lines.map((line, i) => (
        <Typography
          key={i}
          variant="figures"
          component="div"
          sx={{
            fontSize: '0.875rem',
            borderLeft: 3,
            pl: 2,
            borderColor: other.includes(line) ? 'transparent' : 'secondary.main',
          }}
        >
          {line}
        </Typography>
      ))}
    </Box>
  );
}
