import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import { faces } from '../theme/tokens';
import { Help } from './Help';

interface Props {
  /** Names of the columns, '' where the cells speak for themselves; with a help text if need be. */
  head: (string | [name: string, help: string])[];
  /** Close rows without a margin, for a table beside a drawing. */
  dense?: boolean;
  /** Below how many px of room the columns move under each other, each with its name. */
  fold?: number;
  children: ReactNode;
}

const cellName = { color: 'text.secondary', fontFamily: faces.words, mr: 1 };

/** Rows whose cells stand one after the other, as many in a line as there is room for. */
function folded(head: Props['head']) {
  const names = head.map((h, i) => {
    const name = typeof h === 'string' ? h : h[0];
    return [
      `& tbody td:nth-child(${i + 1}):not(:empty)::before`,
      name ? { ...cellName, content: JSON.stringify(`${name} `) } : {},
    ];
  });
  return {
    // Still read out, but not seen: each cell has its name before it.
    '& thead': { position: 'absolute', clipPath: 'inset(50%)' },
    '& tbody tr': {
      display: 'flex',
      flexWrap: 'wrap',
      alignItems: 'center',
      columnGap: 4,
      py: 1,
      borderBottom: 1,
      borderColor: 'divider',
    },
    '& tbody td, & tbody th': { border: 0, p: 0 },
    ...(Object.fromEntries(names) as Record<string, object>),
  };
}

/** A table like a drawing sheet's: an ink line under its head, hairlines under its rows. */
export function Sheet({ head, dense, fold = 0, children }: Props) {
  const cell = dense ? { py: 1, pr: 3, verticalAlign: 'top' } : { py: 2, pr: 4 };
  const inkLine = { borderBottom: 1, borderColor: 'text.primary' };
  return (
    <Box
      sx={{ overflow: 'auto', containerType: 'inline-size', ...(dense ? {} : { px: 6, py: 3 }) }}
    >
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
          [`@container (max-width: ${fold - 1}px)`]: folded(head),
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
