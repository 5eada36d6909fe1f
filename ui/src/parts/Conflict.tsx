import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { w } from '../words/words';

/** One of two versions of a record, told in lines. */
export type Told = string[];

interface Props {
  mine: Told;
  theirs: Told;
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
          <Version head={w.conflict.mineHead} told={mine} other={theirs} />
          <Version head={w.conflict.theirsHead} told={theirs} other={mine} />
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

/** One version; the lines that the other has not are set apart. */
function Version({ head, told, other }: { head: string; told: Told; other: Told }) {
  return (
    <Box sx={{ border: 1, borderColor: 'divider', p: 3, overflow: 'auto', maxHeight: 320 }}>
      <Typography variant="h3" gutterBottom>
        {head}
      </Typography>
      {told.map((line, i) => (
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
