import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { wheelWords as t } from '../../words/wheel';

/** The work is paused: its time does not count until it goes on. */
export function PausedScreen({ onGo }: { onGo: () => void }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', placeContent: 'center', gap: 4, p: 5 }}>
      <Typography variant="h1" component="h2" sx={{ fontSize: '3rem', textAlign: 'center' }}>
        {t.paused}
      </Typography>
      <Typography sx={{ fontSize: '1.25rem', maxWidth: 620 }}>{t.pausedLead}</Typography>
      <Button
        variant="contained"
        autoFocus
        onClick={onGo}
        sx={{ minHeight: 120, fontSize: '1.75rem' }}
      >
        {t.resume}
      </Button>
    </Box>
  );
}
