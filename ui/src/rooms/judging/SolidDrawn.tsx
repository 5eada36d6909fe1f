import Box from '@mui/material/Box';
import type { Draft } from '../../api/client';
import { StoneInTheRound } from '../../parts/stone/StoneInTheRound';
import { TierTable } from '../diagrams/TierTable';
import { useSolved } from '../diagrams/useSolved';

/** A solid in the round, and the tiers that it has become. */
export function SolidDrawn({ draft }: { draft: Draft }) {
  const { shown: stone } = useSolved(draft);
  if (!stone) return null;
  return (
    <>
      <Box sx={{ height: 250 }}>
        <StoneInTheRound
          mesh={stone.mesh}
          step={stone.mesh.steps.length - 1}
          levels={stone.levels}
        />
      </Box>
      <TierTable stone={stone} selected={null} onSelect={() => undefined} />
    </>
  );
}
