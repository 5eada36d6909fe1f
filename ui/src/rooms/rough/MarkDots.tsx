import Box from '@mui/material/Box';
import type { PhotoMark } from '../../api/rough';

/** Where marks are on a photo, too small to be grabbed. */
export function MarkDots({ marks }: { marks: readonly PhotoMark[] }) {
  return marks.map((m, i) => (
    <Box
      key={i}
      aria-hidden
      sx={{
        position: 'absolute',
        left: `${100 * m.x}%`,
        top: `${100 * m.y}%`,
        width: 8,
        height: 8,
        m: '-4px',
        borderRadius: '50%',
        background: (t) => t.tokens.ember,
        border: '1px solid white',
      }}
    />
  ));
}
