import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import type { Assessment, Choices } from '../../api/client';
import type { Looking } from '../../parts/light/looking';
import { lightWords } from '../../words/light';
import { FaceUpFigures } from '../light/FaceUpFigures';
import { GirdleQuestion } from '../light/GirdleQuestion';

interface Props {
  assessment: Assessment;
  looking: Looking;
  choices: Choices;
  /** The diagram's ID. */
  to: string;
}

/** What light the planned stone will return, and whether its girdle is worth the work. */
export function PlanLight({ assessment: a, looking, choices, to }: Props) {
  const search = new URLSearchParams({
    material: looking.material,
    width: String(looking.width),
    girdle: looking.frostedGirdle ? 'frosted' : 'polished',
  });
  return (
    <Box sx={{ my: 4 }}>
      <FaceUpFigures draft={a.draft} looking={looking} />
      <GirdleQuestion draft={a.draft} looking={looking} passes={choices.passes.length} />
      <Button component={Link} to={`/diagrams/${to}/light?${search}`} sx={{ mt: 2 }}>
        {lightWords.more}
      </Button>
    </Box>
  );
}
