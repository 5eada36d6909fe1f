import Box from '@mui/material/Box';
import Tooltip from '@mui/material/Tooltip';

/** A word that explains itself: to a pointer, to a finger and to the keyboard. */
export function Help({ text, children }: { text: string; children: string }) {
  return (
    <Tooltip title={text} describeChild enterTouchDelay={0} leaveTouchDelay={8000}>
      <Box
        component="button"
        type="button"
        sx={{
          all: 'unset',
          cursor: 'help',
          textDecoration: 'underline dotted',
          textUnderlineOffset: 3,
          '&:focus-visible': { outline: 2 },
        }}
      >
        {children}
      </Box>
    </Tooltip>
  );
}
