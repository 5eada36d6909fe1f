import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Ear } from '../../../ear/ear';
import { earWords as t } from '../../../words/ear';
import { LevelBar } from '../../../parts/LevelBar';
import { useHearing } from './useEar';

/** How loud it grinds, beside the facet: nothing where the ear is off. */
export function EarMeter({ ear }: { ear: Ear }) {
  const { state, level, grinding, stopped } = useHearing(ear);
  if (state !== 'on' || !ear.knows()) return null;
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }} data-ear={stopped}>
      <LevelBar label={t.level} level={level} />
      <Typography sx={{ fontSize: '1.25rem', fontWeight: 600, minWidth: '6em' }}>
        {grinding ? t.grinding : stopped > 0 ? t.stopped : t.quiet}
      </Typography>
    </Box>
  );
}
