import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { Clock } from '../clock/Clock';
import { Care } from '../Page';
import { clockWords } from '../../words/clock';

interface Props {
  steps: readonly { text: string; minutes: number; caution: string }[];
  /** What the clocks of these steps are called among all clocks of this browser. */
  of: string;
  /** What a clock is for, as Today tells it. */
  what: string;
}

/** Steps in order, each with its clock and the usual caution. */
export function StepList({ steps, of, what }: Props) {
  return (
    <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none' }}>
      {steps.map((s, i) => (
        <Box
          component="li"
          key={i}
          sx={{
            display: 'flex',
            gap: 3,
            alignItems: 'flex-start',
            borderTop: 1,
            borderColor: 'divider',
            py: 1.5,
          }}
        >
          <Typography variant="figures" color="text.secondary">
            {i + 1}
          </Typography>
          <Box sx={{ flexGrow: 1, minWidth: 0 }}>
            <Typography>{s.text}</Typography>
            {s.caution && <Care>{s.caution}</Care>}
          </Box>
          {s.minutes > 0 && (
            <Clock
              of={`${of}/${i}`}
              what={what}
              minutes={s.minutes}
              label={clockWords.step(i + 1)}
            />
          )}
        </Box>
      ))}
    </Box>
  );
}
