import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { useKeys } from '../../parts/keys';
import { w } from '../../words/words';

interface Props {
  title: string;
  lead?: string;
  /** What leads back to the facet. */
  close?: string;
  /** That is the likely next step. */
  likely?: boolean;
  onClose: () => void;
  /** The stone, on the left half. */
  picture?: ReactNode;
  children: ReactNode;
}

/** What stands on the whole bench instead of the facet. Escape leads back. */
export function Panel(props: Props) {
  const { title, lead, close = w.common.close, likely, onClose, picture, children } = props;
  useKeys([
    { keys: ['Escape'], label: w.common.close, run: onClose },
    ...(likely ? [{ keys: ['Enter', ' '], label: close, run: onClose }] : []),
  ]);
  return (
    <Box
      sx={{
        height: '100%',
        display: 'grid',
        gridTemplateColumns: picture ? '2fr 3fr' : '1fr',
      }}
      // From within a field, too, where the keys of the screen are the field's.
      onKeyDown={(e) => {
        if (e.key !== 'Escape' || e.defaultPrevented) return;
        e.preventDefault();
        e.stopPropagation();
        onClose();
      }}
    >
      {picture && <Box sx={{ minHeight: 0, minWidth: 0, p: 3 }}>{picture}</Box>}
      <Box sx={{ minHeight: 0, minWidth: 0, overflow: 'auto', p: 5 }}>
        <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 4, mb: 4 }}>
          <Box sx={{ flexGrow: 1 }}>
            <Typography variant="h1" component="h2">
              {title}
            </Typography>
            {lead && <Typography sx={{ fontSize: '1.25rem' }}>{lead}</Typography>}
          </Box>
          <Button
            variant={likely ? 'contained' : 'outlined'}
            onClick={onClose}
            sx={{ minHeight: 64, minWidth: 140, fontSize: '1.25rem' }}
          >
            {close}
          </Button>
        </Box>
        {children}
      </Box>
    </Box>
  );
}
