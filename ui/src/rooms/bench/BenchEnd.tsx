import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { w } from '../../words/words';

/** Nothing is left to cut. */
export function BenchEnd({
  stone,
  finished,
  late = 0,
  onBack,
  children,
}: {
  stone: string;
  finished?: boolean;
  /** How much came in after the card was written. */
  late?: number;
  onBack?: () => void;
  /** What is still open of it. */
  children?: ReactNode;
}) {
  return (
    <Box sx={{ p: 8, maxWidth: 640 }}>
      <Typography variant="h1" component="h2" gutterBottom>
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
            to={`/stones/${stone}/card`}
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
