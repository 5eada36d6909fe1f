import Add from '@mui/icons-material/Add';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { Pass } from '../../api/client';
import { w } from '../../words/words';
import { freshID } from '../freshID';

interface Props {
  head: string;
  passes: Pass[];
  onChange: (passes: Pass[]) => void;
}

/** The passes of a plan in order, each with its lap. */
export function PassList({ head, passes, onChange }: Props) {
  const set = (i: number, change: Partial<Pass>) =>
    onChange(passes.map((p, k) => (k === i ? { ...p, ...change } : p)));
  const earlier = (i: number) => {
    const next = [...passes];
    next.splice(i - 1, 0, ...next.splice(i, 1));
    onChange(next);
  };
  return (
    <Box role="group" aria-label={head}>
      <Typography variant="h3" gutterBottom>
        {head}
      </Typography>
      {passes.map((p, i) => (
        <Box key={p.id} sx={{ display: 'flex', gap: 2, mb: 2, alignItems: 'center' }}>
          <TextField
            label={`${w.stones.pass} ${i + 1}`}
            value={p.name}
            onChange={(e) => set(i, { name: e.target.value })}
            sx={{ flex: 2 }}
          />
          <TextField
            label={w.stones.lap}
            value={p.lap}
            onChange={(e) => set(i, { lap: e.target.value })}
            sx={{ flex: 1 }}
          />
          <IconButton
            disabled={i === 0}
            onClick={() => earlier(i)}
            aria-label={w.stones.passUp(p.name)}
          >
            <ArrowUpward />
          </IconButton>
          <IconButton
            disabled={passes.length === 1}
            onClick={() => onChange(passes.filter((_, k) => k !== i))}
            aria-label={w.stones.removePass(p.name)}
          >
            <Close />
          </IconButton>
        </Box>
      ))}
      <Button
        startIcon={<Add />}
        // A pass keeps its name for good: ticks carry it.
        disabled={passes.length >= 12}
        onClick={() => onChange([...passes, { id: freshID(passes, 'pass'), name: '', lap: '' }])}
      >
        {w.stones.addPass}
      </Button>
    </Box>
  );
}
