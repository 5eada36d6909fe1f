import type { Mesh, Tooth } from '../../api/client';
import Box from '@mui/material/Box';
import { w } from '../../words/words';
import type { Side } from './geometry';
import type { StoneMarks } from './StoneFaces';
import { StoneInWheel } from './StoneInWheel';

interface Props extends StoneMarks {
  mesh: Mesh;
  step?: number;
  /** The teeth round the stone; none where it is left out. */
  wheel?: readonly Tooth[];
  /** Drawing units per pixel, larger where the drawings are small. */
  pixel?: number;
  height: number | string;
  /** The side on the left; the crown where it is left out. */
  first?: Side;
  /** Whose sides they are, where more than one stone is drawn. */
  of?: string;
}

/** A stone from both sides, side by side. */
export function BothSides({ height, first = 'crown', of, ...stone }: Props) {
  const sides: Side[] = first === 'crown' ? ['crown', 'pavilion'] : ['pavilion', 'crown'];
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', height }}>
      {sides.map((up) => (
        <StoneInWheel
          key={up}
          up={up}
          label={[of, w.drawing.inWheel(up)].filter(Boolean).join(': ')}
          {...stone}
        />
      ))}
    </Box>
  );
}
