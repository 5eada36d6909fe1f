import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

/** Fields side by side, as many as there is room for. */
export function Row({ children }: { children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', alignItems: 'flex-start' }}>
      {children}
    </Box>
  );
}
