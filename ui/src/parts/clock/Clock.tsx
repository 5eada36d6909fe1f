import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useLocation } from 'react-router';
import { clockOf, startClock, stopClock } from '../../log/clocks';
import { clockWords as c } from '../../words/clock';
import { clock, duration } from '../../words/numbers';
import { useNow } from './useNow';

interface Props {
  /** Which clock it is. */
  of: string;
  /** What it is for, as Today tells it. */
  what: string;
  minutes: number;
  /** Which of several on the page it is. */
  label: string;
}

/** A clock that runs down. It goes on while the page is closed, and Today shows it. */
export function Clock({ of, what, minutes, label }: Props) {
  const { pathname, search } = useLocation();
  const [end, setEnd] = useState(() => clockOf(of)?.end);
  const [started, setStarted] = useState(() => Date.now());
  const now = Math.max(started, useNow(end !== undefined));
  const start = () => {
    const from = Date.now();
    const at = from + minutes * 60_000;
    startClock({ key: of, end: at, what, to: pathname + search });
    setStarted(from);
    setEnd(at);
  };
  const stop = () => {
    stopClock(of);
    setEnd(undefined);
  };
  if (end === undefined)
    return (
      <Button
        variant="outlined"
        onClick={start}
        aria-label={`${c.start(duration(minutes))}, ${label}`}
        sx={{ flexShrink: 0 }}
      >
        {c.start(duration(minutes))}
      </Button>
    );
  const left = Math.max(0, end - now);
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexShrink: 0 }}>
      <Typography
        variant="figures"
        role="timer"
        sx={{ fontSize: '1.25rem', color: left === 0 ? 'secondary.main' : undefined }}
      >
        {left === 0 ? c.over : clock(left + 999)}
      </Typography>
      <Button onClick={stop} aria-label={`${left === 0 ? c.done : c.stop}, ${label}`}>
        {left === 0 ? c.done : c.stop}
      </Button>
    </Box>
  );
}
