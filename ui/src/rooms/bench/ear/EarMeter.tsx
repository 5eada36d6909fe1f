import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Ear } from '../../../ear/ear';
import { earWords as t } from '../../../words/ear';
import { useHearing } from './useEar';

/** How loud it grinds, beside the facet: nothing where the ear is off. */
export function EarMeter({ ear }: { ear: Ear }) {
  const { state, level, grinding, stopped } = useHearing(ear);
  if (state !== 'on' || !ear.knows()) return null;
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }} data-ear={stopped}>
      <LevelBar level={level} />
      <Typography sx={{ fontSize: '1.25rem', fontWeight: 600, minWidth: '6em' }}>
        {grinding ? t.grinding : stopped > 0 ? t.stopped : t.quiet}
      </Typography>
    </Box>
  );
}

/** A level from 0 to 1 as a bar. */
export function LevelBar({ level, high = 14 }: { level: number; high?: number }) {
  const share = Math.min(1, Math.max(0, level));
  return (
    <Box
      role="meter"
      aria-label={t.level}
      aria-valuemin={0}
      aria-valuemax={1}
      aria-valuenow={Math.round(share * 100) / 100}
      sx={{ flexGrow: 1, height: high, border: 1, borderColor: 'divider' }}
    >
      <Box sx={{ height: '100%', width: `${100 * share}%`, bgcolor: 'secondary.main' }} />
    </Box>
  );
}
