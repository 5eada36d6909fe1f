import Box from '@mui/material/Box';
import type { Assessment, StoneView } from '../../api/client';
import { HeldSetups } from '../../parts/stone/HeldSetups';
import { TierTable } from '../../parts/stone/TierTable';

interface Props {
  stone: StoneView;
  held: Assessment['held'];
  selected: string | null;
  select: (tier: string | null) => void;
}

/** What a plan dials: tier by tier, or one holding after the other where the diagram does not tell it. */
export function Dialled({ stone, held, selected, select }: Props) {
  if (held.length > 0) return <HeldSetups stone={stone} held={held} />;
  return (
    <Box sx={{ my: 4, overflow: 'auto' }}>
      <TierTable stone={stone} selected={selected} onSelect={select} />
    </Box>
  );
}
