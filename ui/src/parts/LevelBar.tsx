import Box from '@mui/material/Box';

/** A level from 0 to 1 as a bar. */
export function LevelBar(props: { label: string; level: number; high?: number }) {
  const { label, level, high = 14 } = props;
  const share = Math.min(1, Math.max(0, level));
  return (
    <Box
      role="meter"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={1}
      aria-valuenow={Math.round(share * 100) / 100}
      sx={{ flexGrow: 1, height: high, border: 1, borderColor: 'divider' }}
    >
      <Box sx={{ height: '100%', width: `${100 * share}%`, bgcolor: 'secondary.main' }} />
    </Box>
  );
}
