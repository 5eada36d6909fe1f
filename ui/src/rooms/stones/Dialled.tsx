import Box from '@mui/material/Box';
import type { Assessment, StoneView } from '../../api/client';
import { HeldDopUps } from '../../parts/stone/HeldDopUps';
import { TierTable } from '../../parts/stone/TierTable';

interface Props {
  stone: StoneView;
  dopUps: Assessment['dopUps'];
  selected: string | null;
  select: (tier: string | null) => void;
}

/** What a plan dials: tier by tier, or dop-up by dop-up. */
export function Dialled({ stone, dopUps, selected, select }: Props) {
  if (dopUps.length > 0) return <HeldDopUps stone={stone} dopUps={dopUps} />;
  return (
    <Box sx={{ my: 4, overflow: 'auto' }}>
      <TierTable stone={stone} selected={selected} onSelect={select} />
    </Box>
  );
}
