import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import { Help } from './Help';

interface Props {
  /** Names of the columns, '' where the cells speak for themselves; with a help text if need be. */
  head: (string | [name: string, help: string])[];
  /** Close rows without a margin, for a table beside a drawing. */
  dense?: boolean;
  children: ReactNode;
}

/** A table like a drawing sheet's: an ink line under its head, hairlines under its rows. */
export function Sheet({ head, dense, children }: Props) {
  const cell = dense ? { py: 1, pr: 3, verticalAlign: 'top' } : { py: 2, pr: 4 };
  const inkLine = { borderBottom: 1, borderColor: 'text.primary' };
  return (
    <Box sx={{ overflow: 'auto', ...(dense ? {} : { px: 6, py: 3 }) }}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          '& th': { ...cell, ...inkLine, textAlign: 'left', fontWeight: 600, whiteSpace: 'nowrap' },
          '& thead td': inkLine,
          '& tbody td': { ...cell, borderBottom: 1, borderColor: 'divider' },
          '& .figure': {
            fontFamily: (t) => t.typography.figures?.fontFamily,
            fontVariantNumeric: 'tabular-nums',
            whiteSpace: 'nowrap',
          },
        }}
      >
        <thead>
          <tr>
            {head.map((h, i) => {
              const [name, help] = typeof h === 'string' ? [h, undefined] : h;
              if (!name) return <td key={i} />;
              return (
                <th key={i} scope="col">
                  {help ? <Help text={help}>{name}</Help> : name}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </Box>
    </Box>
  );
}
