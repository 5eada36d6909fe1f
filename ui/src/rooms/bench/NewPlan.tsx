import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { diskWords as d } from '../../words/disk';

/** The plan was changed while the bench was open: nothing is cut before it was read. */
export function NewPlan({ no, onRead }: { no: number; onRead: () => void }) {
  return (
    <Box role="alert" sx={{ p: 8, maxWidth: 720 }}>
      <Typography variant="h1" component="h2" gutterBottom>
        {d.newPlan(no)}
      </Typography>
      <Typography sx={{ mb: 4, fontSize: '1.25rem' }}>{d.newPlanLead}</Typography>
      <Button variant="contained" onClick={onRead} sx={{ minHeight: 64, fontSize: '1.25rem' }}>
        {d.takePlan}
      </Button>
    </Box>
  );
}
