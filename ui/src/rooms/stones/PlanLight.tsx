import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Link } from 'react-router';
import type { Assessment, Choices } from '../../api/client';
import type { Lighting } from '../../parts/light/lighting';
import { lightWords } from '../../words/light';
import { FaceUpFigures } from '../../parts/light/FaceUpFigures';
import { GirdleQuestion } from '../../parts/light/GirdleQuestion';

interface Props {
  assessment: Assessment;
  lighting: Lighting;
  choices: Choices;
  /** The diagram's ID. */
  to: string;
}

/** What light the planned stone will return, and whether its girdle is worth the work. */
export function PlanLight({ assessment: a, lighting, choices, to }: Props) {
  const search = new URLSearchParams({
    material: lighting.material,
    width: String(lighting.width),
    girdle: lighting.frostedGirdle ? 'frosted' : 'polished',
  });
  return (
    <Box sx={{ my: 4 }}>
      <FaceUpFigures draft={a.draft} lighting={lighting} />
      <GirdleQuestion draft={a.draft} lighting={lighting} passes={choices.passes.length} />
      <Button component={Link} to={`/diagrams/${to}/light?${search}`} sx={{ mt: 2 }}>
        {lightWords.more}
      </Button>
    </Box>
  );
}
