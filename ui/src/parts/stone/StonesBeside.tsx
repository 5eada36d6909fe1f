import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Mesh } from '../../api/client';
import { w } from '../../words/words';
import type { Side } from './geometry';
import { StoneInWheel } from './StoneInWheel';

interface Props {
  /** Two stones with what they are called. */
  stones: readonly [string, Mesh][];
  /** The side that is up at first. */
  up: Side;
  /** The stones stand one over the other; else side by side. */
  stacked?: boolean;
  /** The faces that are marked on both, by their numbers. */
  marked: ReadonlySet<number>;
}

/** Two stones, both turned the same way. */
export function StonesBeside({ stones, stacked, marked, ...first }: Props) {
  const [up, setUp] = useState<Side>(first.up);
  return (
    <Box sx={{ height: stacked ? '100%' : undefined, display: 'flex', flexDirection: 'column' }}>
      <ToggleButtonGroup
        exclusive
        value={up}
        onChange={(_, v: Side | null) => v && setUp(v)}
        aria-label={w.drawing.side}
        sx={{ alignSelf: 'flex-start', mb: 1 }}
      >
        <ToggleButton value="crown">{w.drawing.crownUp}</ToggleButton>
        <ToggleButton value="pavilion">{w.drawing.pavilionUp}</ToggleButton>
      </ToggleButtonGroup>
      <Box
        sx={{
          flexGrow: 1,
          minHeight: 0,
          display: 'grid',
          gridTemplate: stacked ? '1fr 1fr / 1fr' : '1fr / 1fr 1fr',
          gap: 2,
        }}
      >
        {stones.map(([caption, mesh]) => (
          <Box
            key={caption}
            component="figure"
            sx={{ m: 0, minHeight: 0, minWidth: 0, display: 'flex', flexDirection: 'column' }}
          >
            <Box
              sx={stacked ? { flex: '1 1 0', minHeight: 0 } : { aspectRatio: '1', maxHeight: 340 }}
            >
              <StoneInWheel
                mesh={mesh}
                step={0}
                up={up}
                selected={marked}
                label={`${caption}, ${w.drawing.inWheel(up)}`}
              />
            </Box>
            <Typography component="figcaption" color="text.secondary" sx={{ textAlign: 'center' }}>
              {caption}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
