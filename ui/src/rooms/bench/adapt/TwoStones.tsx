import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Adaptation, BenchScript } from '../../../api/client';
import { Profile } from '../../../parts/stone/Profile';
import { wheelWords as t } from '../../../words/wheel';

/** The stone as planned over the stone as it would be, from the side, at one scale. */
export function TwoStones({ script, of }: { script: BenchScript; of: Adaptation | undefined }) {
  const { levels } = script;
  // Both are drawn in one frame, so that what gets lower looks lower.
  const frame = {
    ...levels,
    bottom: Math.min(levels.bottom, of?.levels.bottom ?? levels.bottom),
    top: Math.max(levels.top, of?.levels.top ?? levels.top),
  };
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateRows: '1fr auto 1fr auto' }}>
      <Box sx={{ minHeight: 0 }}>
        <Profile mesh={script.mesh} levels={frame} />
      </Box>
      <Typography color="text.secondary" sx={{ textAlign: 'center' }}>
        {t.planned}
      </Typography>
      <Box sx={{ minHeight: 0 }} data-so>
        {of && <Profile mesh={of.solid} levels={frame} />}
      </Box>
      <Typography color="text.secondary" sx={{ textAlign: 'center' }}>
        {t.so}
      </Typography>
    </Box>
  );
}
