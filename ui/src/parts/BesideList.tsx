import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

interface Props {
  /** The list, with what adds to it. */
  list: ReactNode;
  /** Width of the list in px. */
  width?: number;
  /** What is chosen of it. */
  children: ReactNode;
}

/** A list, and beside it what is chosen of it; below it on a narrow screen. */
export function BesideList({ list, width = 300, children }: Props) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: `${width}px minmax(0, 1fr)` },
        columnGap: 8,
      }}
    >
      <Box>{list}</Box>
      {children}
    </Box>
  );
}
