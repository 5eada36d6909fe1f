import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

interface Props {
  /** The stone. */
  left: ReactNode;
  /** What is said of it, and can be done. */
  children: ReactNode;
}

/** A page in two halves, below each other on a narrow screen. */
export function Halves({ left, children }: Props) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '44% minmax(0, 1fr)' },
        minHeight: { md: 'calc(100vh - 110px)' },
      }}
    >
      <Box sx={{ borderRight: { md: 1 }, borderColor: { md: 'divider' } }}>{left}</Box>
      {children}
    </Box>
  );
}
