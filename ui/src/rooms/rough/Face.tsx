import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { faceQuery, type Candidate, type FaceAsked, type Rough } from '../../api/rough';
import { usualQuery } from '../../api/settings';
import { LightPicture } from '../../parts/light/LightPicture';
import { faceUp, polar } from '../../parts/light/lighting';
import { useRefined } from '../../parts/light/useLook';
import { PickField } from '../../parts/fields/PickField';
import { Figures } from '../../parts/Page';
import { percent } from '../../words/numbers';
import { roughWords } from '../../words/rough';

const r = roughWords.face;

interface Props {
  /** The piece as it is on screen, with its colours and flaws. */
  rough: Rough;
  candidate: Candidate;
  height: number;
}

/** A candidate as it looks once it is cut: its colour, its light, and what of the flaws shows. */
export function Face({ rough, candidate: c, height }: Props) {
  const usual = useQuery(usualQuery).data;
  const [tilt, setTilt] = useState(faceUp);
  const [show, setShow] = useState<FaceAsked['show']>('flaws');
  const body: FaceAsked | null =
    usual && c.place
      ? {
          material: rough.material,
          flaws: rough.flaws,
          axis: rough.axis,
          colour: rough.colour,
          revision: c.revision,
          place: c.place,
          model: usual.lightModel,
          headAngle: usual.headAngle,
          show,
          ...polar(tilt),
        }
      : null;
  const stone = useRefined(body, (grid) => faceQuery(body, grid));
  const seen = stone.look;
  return (
    <Box component="section" aria-label={r.title} sx={{ my: 2 }}>
      <Box sx={{ height }}>
        <LightPicture name={c.name} stone={stone} tilt={tilt} onTilt={setTilt} />
      </Box>
      {rough.flaws.length > 0 && (
        <PickField
          label={r.show}
          value={show}
          options={r.shows}
          onChange={(v) => setShow(v as FaceAsked['show'])}
        />
      )}
      {seen && (
        <>
          <Figures
            rows={[
              [roughWords.beside.light, percent(seen.figures.return)],
              [roughWords.beside.window, percent(seen.figures.window)],
              ...seen.flaws.map((f): [string, string] => [
                rough.flaws[f.flaw]?.name || roughWords.flaw.unnamed(f.flaw + 1),
                r.seen(f.images, percent(f.share)),
              ]),
            ]}
          />
          <Typography
            variant="body2"
            component="div"
            sx={{ display: 'flex', gap: 2, alignItems: 'center', mt: 1 }}
          >
            <Box
              aria-hidden
              sx={{
                width: 36,
                height: 14,
                background: seen.colour,
                border: 1,
                borderColor: 'divider',
              }}
            />
            {r.colour}
          </Typography>
          {rough.flaws.length > 0 && show !== 'flawless' && seen.flaws.length === 0 && (
            <Typography variant="body2">{r.hidden}</Typography>
          )}
        </>
      )}
    </Box>
  );
}
