import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { machineWords } from '../../words/machine';
import { angle, parseNumber } from '../../words/numbers';
import { w } from '../../words/words';

const t = machineWords.repeatabilityTest;
/** Fewer readings say nothing of how far they scatter. */
const fewest = 3;

/** Finds a machine's repeatability from readings of one angle that was set again and again. */
export function RepeatabilityTest({ onTake }: { onTake: (degrees: number) => void }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const readings = readingsOf(text);
  const spread = readings.length >= fewest ? scatter(readings) : undefined;
  return (
    <>
      <Button onClick={() => setOpen(true)}>{t.open}</Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth>
        <DialogTitle>{t.title}</DialogTitle>
        <DialogContent>
          <Typography gutterBottom>{t.lead}</Typography>
          <TextField
            label={t.readings}
            placeholder={t.example}
            value={text}
            onChange={(e) => setText(e.target.value)}
            fullWidth
            sx={{ mt: 2 }}
          />
          <Typography sx={{ mt: 2 }}>
            {spread === undefined ? t.few : t.found(angle(spread), readings.length)}
          </Typography>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>{w.common.cancel}</Button>
          <Button
            variant="contained"
            disabled={spread === undefined}
            onClick={() => {
              onTake(spread!);
              setOpen(false);
            }}
          >
            {t.take(spread === undefined ? '…' : angle(spread))}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

/** The figures in a text, parted by anything that is not part of one. */
export const readingsOf = (text: string): number[] =>
  text
    .split(/[\s;°]+/)
    .map(parseNumber)
    .filter((v) => v !== undefined);

/** The standard deviation of readings, to a hundredth. */
export function scatter(readings: readonly number[]): number {
  const mean = readings.reduce((sum, v) => sum + v, 0) / readings.length;
  const squares = readings.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  return Math.round(Math.sqrt(squares / (readings.length - 1)) * 100) / 100;
}
