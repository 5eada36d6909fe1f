import Close from '@mui/icons-material/Close';
import KeyboardOutlined from '@mui/icons-material/KeyboardOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { useKeyHelp } from './keys';
import { useArrival } from './useArrival';
import { w } from '../words/words';

interface Props {
  title: string;
  onLeave: () => void;
  /** What stands before the key help. */
  children?: ReactNode;
  /** What stands at the end. */
  end?: ReactNode;
  /** What stands below, as wide as the screen. */
  below?: ReactNode;
}

/** The head of a room that has the whole screen, at the wheel: all of it can be pressed with a wet finger. */
export function FullHead({ title, onLeave, children, end, below }: Props) {
  const showKeys = useKeyHelp();
  const heading = useArrival<HTMLHeadingElement>();
  return (
    <Box component="header" sx={{ borderBottom: 1, borderColor: 'divider', px: 3 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, minHeight: 64 }}>
        <IconButton onClick={onLeave} aria-label={w.bench.leave} sx={{ width: 64, height: 64 }}>
          <Close />
        </IconButton>
        <Typography
          component="h1"
          variant="h2"
          noWrap
          ref={heading}
          tabIndex={-1}
          // The keys of the room work from anywhere: a ring here would stay all evening.
          sx={{ flexGrow: 1, '&:focus-visible': { outline: 'none' } }}
        >
          {title}
        </Typography>
        {children}
        <IconButton onClick={showKeys} aria-label={w.common.keys} sx={{ width: 64, height: 64 }}>
          <KeyboardOutlined />
        </IconButton>
        {end}
      </Box>
      {below}
    </Box>
  );
}
