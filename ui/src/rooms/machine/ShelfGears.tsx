import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { shelfQuery } from '../../api/kit';
import { kitWords as k } from '../../words/kit';

interface Props {
  /** The machine's own. */
  gears: number[];
  onAdd: (teeth: number) => void;
}

/** The gears of the shelf that a machine does not have yet. */
export function ShelfGears({ gears, onAdd }: Props) {
  const shelf = useQuery(shelfQuery).data ?? [];
  const others = shelf
    .filter((s) => s.item.gear && !s.gone && !gears.includes(s.item.gear.teeth))
    .map((s) => s.item.gear!.teeth);
  if (others.length === 0) return null;
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
      <Typography color="text.secondary">{k.shelfGears}</Typography>
      {[...new Set(others)].map((teeth) => (
        <Button key={teeth} size="small" onClick={() => onAdd(teeth)} aria-label={k.addGear(teeth)}>
          {teeth}
        </Button>
      ))}
    </Box>
  );
}
