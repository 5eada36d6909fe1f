import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { BenchScript } from '../../api/client';
import { BothSides } from '../../parts/stone/BothSides';
import { w } from '../../words/words';

/** Nothing is left to cut: the stone, and what is done with it. */
export function BenchEnd({
  script,
  step,
  finished,
  late = 0,
  onBack,
  children,
}: {
  script: BenchScript;
  /** The step of the picture that is cut. */
  step: number;
  finished?: boolean;
  /** How much came in after the card was written. */
  late?: number;
  onBack?: () => void;
  /** What is still open of it. */
  children?: ReactNode;
}) {
  return (
    <Box sx={{ height: '100%', overflow: 'auto', p: 6 }}>
      <BothSides mesh={script.mesh} step={step} wheel={script.wheel} height="min(44vh, 46vw)" />
      <Typography variant="h1" component="h2" gutterBottom sx={{ mt: 4 }}>
        {finished ? w.bench.finished : children ? w.bench.throughAll : w.bench.allDone}
      </Typography>
      {late > 0 && <Typography sx={{ mb: 4 }}>{w.bench.late(late)}</Typography>}
      {!finished && !children && <Typography>{w.bench.allDoneLead}</Typography>}
      {children}
      <Box sx={{ display: 'flex', gap: 2, mt: 4 }}>
        {onBack && (
          <Button onClick={onBack} sx={{ minHeight: 64 }}>
            {w.bench.back}
          </Button>
        )}
        {!finished && (
          <Button
            component={Link}
            to={`/stones/${script.stoneId}/card`}
            variant="contained"
            sx={{ minHeight: 64 }}
          >
            {w.bench.finish}
          </Button>
        )}
      </Box>
    </Box>
  );
}
