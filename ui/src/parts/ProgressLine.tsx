import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';

/** How far long work has come, as a bar and in words. */
export function ProgressLine({ done, total, text }: { done: number; total: number; text: string }) {
  return (
    <Box sx={{ my: 3 }}>
      <LinearProgress
        variant="determinate"
        value={(100 * done) / Math.max(1, total)}
        aria-label={text}
      />
      <Typography variant="figures">{text}</Typography>
    </Box>
  );
}
