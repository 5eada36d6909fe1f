import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

/** A table like a drawing sheet's: an ink line under its head, hairlines under its rows. */
export function Sheet({ head, children }: { head: string[]; children: ReactNode }) {
  return (
    <Box sx={{ overflow: 'auto', px: 6, py: 3 }}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          '& th': {
            textAlign: 'left',
            fontWeight: 600,
            borderBottom: 1,
            borderColor: 'text.primary',
            py: 2,
            pr: 4,
            whiteSpace: 'nowrap',
          },
          '& thead td': { borderBottom: 1, borderColor: 'text.primary' },
          '& tbody td': { borderBottom: 1, borderColor: 'divider', py: 2, pr: 4 },
          '& .figure': {
            fontFamily: (t) => t.typography.figures?.fontFamily,
            fontVariantNumeric: 'tabular-nums',
            whiteSpace: 'nowrap',
          },
        }}
      >
        <thead>
          <tr>
            {head.map((h, i) =>
              h ? (
                <th key={i} scope="col">
                  {h}
                </th>
              ) : (
                <td key={i} />
              ),
            )}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </Box>
    </Box>
  );
}
