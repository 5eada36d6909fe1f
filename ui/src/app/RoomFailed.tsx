import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { Link, useRouteError } from 'react-router';
import { w } from '../words/words';

function Apart({ text, detail }: { text: string; detail?: string }) {
  return (
    <Box component="main" sx={{ p: 8, maxWidth: 640 }}>
      <Typography variant="h1" gutterBottom>
        {text}
      </Typography>
      {detail && (
        <Typography variant="figures" component="p" gutterBottom>
          {detail}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 2, mt: 4 }}>
        <Button onClick={() => window.location.reload()}>{w.common.retry}</Button>
        <Button component={Link} to="/">
          {w.common.toToday}
        </Button>
      </Box>
    </Box>
  );
}

/** A room that fails takes nothing with it: drafts and ticks are stored as they are made. */
export function RoomFailed() {
  const error = useRouteError();
  return (
    <Apart text={w.common.broken} detail={error instanceof Error ? error.message : undefined} />
  );
}

export function NotFound() {
  return <Apart text={w.common.notFound} />;
}
