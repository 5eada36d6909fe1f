import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import type { Diagram } from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { LightView } from '../../parts/light/LightView';
import { Halves } from '../../parts/Halves';
import { Await, PageHead } from '../../parts/Page';
import { anglesWords } from '../../words/angles';
import { lightWords } from '../../words/light';
import { FaceUpFigures } from '../../parts/light/FaceUpFigures';
import { GirdleQuestion } from '../../parts/light/GirdleQuestion';
import type { Lighting } from '../../parts/light/lighting';
import { useUsualLighting } from '../../parts/light/useUsualLighting';
import { LightingFields } from '../../parts/light/LightingFields';
import { MaterialRows } from './MaterialRows';
import { TiltCurves } from './TiltCurves';
import { useLighting } from './useLighting';

/** What a diagram's stone will look like: pictures, figures, and what they hang on. */
export function LightRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  return <Await query={diagram}>{(d) => <Light key={d.id} diagram={d} />}</Await>;
}

function Light({ diagram: d }: { diagram: Diagram }) {
  return (
    <Await query={useUsualLighting(d)}>{(usual) => <Pictures diagram={d} usual={usual} />}</Await>
  );
}

function Pictures({ diagram: d, usual }: { diagram: Diagram; usual: Lighting }) {
  const { lighting, set } = useLighting(usual);
  const { search } = useLocation();
  const [split, setSplit] = useState(false);
  return (
    <>
      <PageHead title={lightWords.title(d.draft.name)}>
        <Button component={Link} to={`/diagrams/${d.id}`}>
          {anglesWords.back}
        </Button>
        <Button component={Link} to={`/diagrams/${d.id}/light/sweep${search}`} variant="contained">
          {lightWords.sweep.open}
        </Button>
      </PageHead>
      <Halves
        left={
          <Box sx={{ p: 4, position: { md: 'sticky' }, top: 0 }}>
            <LightView
              draft={d.draft}
              lighting={lighting}
              height="min(40vw, calc(100vh - 330px))"
              split={split}
            >
              <FormControlLabel
                control={<Switch checked={split} onChange={(_, on) => setSplit(on)} />}
                label={lightWords.split}
              />
            </LightView>
          </Box>
        }
      >
        <Box sx={{ px: 4, pb: 6, minWidth: 0 }}>
          <LightingFields lighting={lighting} set={set} />
          <FaceUpFigures draft={d.draft} lighting={lighting} />
          <GirdleQuestion draft={d.draft} lighting={lighting} />
          <TiltCurves draft={d.draft} lighting={lighting} />
          <MaterialRows draft={d.draft} lighting={lighting} />
        </Box>
      </Halves>
    </>
  );
}
