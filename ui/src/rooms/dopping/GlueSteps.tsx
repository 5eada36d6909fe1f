import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { StoneLine } from '../../api/client';
import type { GlueSort } from '../../api/gluing';
import { StepList } from '../../parts/work/StepList';
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
  const last = sort.steps.length - 1;
  return (
    <Box component="section" aria-label={k.steps} sx={{ mb: 4 }}>
      <Typography variant="h3" gutterBottom>
        {k.steps}
      </Typography>
      <StepList
        steps={sort.steps.map((s, i) => (i === last ? { ...s, minutes } : s))}
        of={`glue/${stone.id}/${place}/${sort.sort}`}
        what={k.clockOf(stone.number)}
      />
      <Typography color="text.secondary" sx={{ borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
        <strong>{k.frees}:</strong> {sort.release} {k.order}
      </Typography>
    </Box>
  );
}
