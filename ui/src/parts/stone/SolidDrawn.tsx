import Box from '@mui/material/Box';
import type { Draft } from '../../api/client';
import { StoneInTheRound } from './StoneInTheRound';
import { TierTable } from './TierTable';
import { useSolved } from './useSolved';

/** A solid in the round, and the tiers that it has become. */
export function SolidDrawn({ draft }: { draft: Draft }) {
  const { shown: stone } = useSolved(draft);
  if (!stone) return null;
  return (
    <>
      <Box sx={{ height: 250 }}>
        <StoneInTheRound mesh={stone.mesh} levels={stone.levels} />
      </Box>
      <TierTable stone={stone} />
    </>
  );
}
