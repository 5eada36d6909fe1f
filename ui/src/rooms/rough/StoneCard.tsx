import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

interface Props {
  chosen: boolean;
  onChoose: () => void;
  width?: number;
  children: ReactNode;
}

/** A stone that can be chosen among others: a small drawing with its figures. */
export function StoneCard({ chosen, onChoose, width, children }: Props) {
  return (
    <Box
      component="button"
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      sx={{
        width,
        p: 1,
        position: 'relative',
        border: 1,
        borderColor: chosen ? 'primary.main' : 'divider',
        background: (t) => (chosen ? t.tokens.copperWash : 'none'),
        color: 'inherit',
        font: 'inherit',
        textAlign: 'left',
        cursor: 'pointer',
        borderRadius: '2px',
        minWidth: 0,
      }}
    >
      {children}
    </Box>
  );
}
