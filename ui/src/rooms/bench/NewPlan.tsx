import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { Care } from '../../parts/Page';
import { diskWords as d } from '../../words/disk';

interface Props {
  no: number;
  /** Fetches the new plan. This is shown on only where that was not possible. */
  onRead: () => Promise<unknown>;
}

/** The plan was changed while the bench was open: nothing is cut before it was read. */
export function NewPlan({ no, onRead }: Props) {
  const [reading, setReading] = useState<'reading' | 'missed'>();
  const read = async () => {
    setReading('reading');
    await onRead();
    setReading('missed');
  };
  return (
    <Box role="alert" sx={{ p: 8, maxWidth: 720 }}>
      <Typography variant="h1" component="h2" gutterBottom>
        {d.newPlan(no)}
      </Typography>
      <Typography sx={{ mb: 4, fontSize: '1.25rem' }}>{d.newPlanLead}</Typography>
      <Button
        variant="contained"
        disabled={reading === 'reading'}
        onClick={() => void read()}
        sx={{ minHeight: 64, fontSize: '1.25rem' }}
      >
        {d.takePlan}
      </Button>
      {reading === 'missed' && <Care>{d.planAway}</Care>}
    </Box>
  );
}
