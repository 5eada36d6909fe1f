import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { scatterQuery } from '../../api/settings';
import { reads, taking } from '../../parts/instruments/ReadingOffer';
import { machineWords } from '../../words/machine';
import { angle, parseNumber } from '../../words/numbers';
import { w } from '../../words/words';

const t = machineWords.repeatabilityTest;
/** Finds a machine's repeatability from readings of one angle that was set again and again. */
export function RepeatabilityTest({ onTake }: { onTake: (degrees: number) => void }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const readings = readingsOf(text);
  const found = useQuery(scatterQuery(readings));
  // To a hundredth, which is more than anybody reads.
  const spread = found.data === undefined ? undefined : Math.round(found.data * 100) / 100;
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
            onKeyDown={taking(reads.angle, (v) => setText(`${text.trimEnd()} ${v}`.trimStart()))}
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
