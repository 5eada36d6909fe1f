import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { StoneLine } from '../../api/client';
import type { GlueSort } from '../../api/gluing';
import { Clock } from '../../parts/clock/Clock';
import { Care } from '../../parts/Page';
import { gluingWords } from '../../words/gluing';

const k = gluingWords.glue;

interface Props {
  stone: StoneLine;
  sort: GlueSort;
  /** How long this bottle takes to cure. */
  minutes: number;
  /** Which setup it is for, by its place: each has clocks of its own. */
  place: number;
}

/** The steps of gluing, each with its clock and the usual caution. */
export function GlueSteps({ stone, sort, minutes, place }: Props) {
  return (
    <Box component="section" aria-label={k.steps} sx={{ mb: 4 }}>
      <Typography variant="h3" gutterBottom>
        {k.steps}
      </Typography>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {sort.steps.map((s, i) => {
          const last = i === sort.steps.length - 1;
          const time = last ? minutes : s.minutes;
          return (
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
              {time > 0 && (
                <Clock
                  of={`glue/${stone.id}/${place}/${sort.sort}/${i}`}
                  what={k.clockOf(stone.number)}
                  minutes={time}
                  label={k.step(i + 1)}
                />
              )}
            </Box>
          );
        })}
      </Box>
      <Typography color="text.secondary" sx={{ borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
        <strong>{k.frees}:</strong> {sort.release} {k.order}
      </Typography>
    </Box>
  );
}
