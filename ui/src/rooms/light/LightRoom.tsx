import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import type { Diagram } from '../../api/client';
import { diagramQuery } from '../../api/queries';
import { LightView } from '../../parts/light/LightView';
import { Await, PageHead } from '../../parts/Page';
import { judgingWords } from '../../words/judging';
import { lightWords } from '../../words/light';
import { FaceUpFigures } from './FaceUpFigures';
import { GirdleQuestion } from './GirdleQuestion';
import { LookingFields } from './LookingFields';
import { MaterialRows } from './MaterialRows';
import { TiltCurves } from './TiltCurves';
import { useLooking } from './useLooking';

/** What a diagram's stone will look like: pictures, figures, and what they hang on. */
export function LightRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  return <Await query={diagram}>{(d) => <Light key={d.id} diagram={d} />}</Await>;
}

function Light({ diagram: d }: { diagram: Diagram }) {
  const { looking, set, ready } = useLooking(d);
  const { search } = useLocation();
  const [split, setSplit] = useState(false);
  const of = ready ? d.draft : undefined;
  return (
    <>
      <PageHead title={lightWords.title(d.draft.name)}>
        <Button component={Link} to={`/diagrams/${d.id}`}>
          {judgingWords.angles.back}
        </Button>
        <Button component={Link} to={`/diagrams/${d.id}/light/sweep${search}`} variant="contained">
          {lightWords.sweep.open}
        </Button>
      </PageHead>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '44% minmax(0, 1fr)' },
          minHeight: { md: 'calc(100vh - 110px)' },
        }}
      >
        <Box sx={{ borderRight: { md: 1 }, borderColor: { md: 'divider' } }}>
          <Box sx={{ p: 4, position: { md: 'sticky' }, top: 0 }}>
            <LightView
              draft={of}
              looking={looking}
              height="min(40vw, calc(100vh - 330px))"
              split={split}
            >
              <FormControlLabel
                control={<Switch checked={split} onChange={(_, on) => setSplit(on)} />}
                label={lightWords.split}
              />
            </LightView>
          </Box>
        </Box>
        <Box sx={{ px: 4, pb: 6, minWidth: 0 }}>
          <LookingFields looking={looking} set={set} />
          {of && (
            <>
              <FaceUpFigures draft={of} looking={looking} />
              <GirdleQuestion draft={of} looking={looking} />
              <TiltCurves draft={of} looking={looking} />
              <MaterialRows draft={of} looking={looking} />
            </>
          )}
        </Box>
      </Box>
    </>
  );
}
