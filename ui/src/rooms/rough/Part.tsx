import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** A part of what is known of a piece, with a way to add to it. */
export function Part(props: {
  head: string;
  add?: string;
  onAdd?: () => void;
  /** Another way to add to it. */
  more?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Box component="section" aria-label={props.head} sx={{ mb: 5 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1 }}>
        <Typography variant="h2" sx={{ flexGrow: 1 }}>
          {props.head}
        </Typography>
        {props.more}
        {props.add && (
          <Button size="small" onClick={props.onAdd}>
            {props.add}
          </Button>
        )}
      </Box>
      {props.children}
    </Box>
  );
}
