import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import type { Draft } from '../../api/client';
import { lightWords } from '../../words/light';
import { mm, percent, plain } from '../../words/numbers';
import { LightPicture } from './LightPicture';
import { faceUp, type Lighting, type Show } from './lighting';
import { useLook } from './useLook';
import { tiltText } from './tiltText';

interface Props {
  /** Undefined until there is a stone. */
  draft: Draft | undefined;
  lighting: Lighting;
  height: string;
  split?: boolean;
  /** The picture to begin with. */
  first?: Show;
  children?: ReactNode;
}

/** A stone under light that can be tilted, in its colour, pale, or as a map of its light. */
export function LightView({ draft, lighting, height, split, first = 'colour', children }: Props) {
  const [show, setShow] = useState<Show>(first);
  const [tilt, setTilt] = useState(faceUp);
  const stone = useLook({ draft, lighting, show, split, tilt });
  const { look } = stone;
  const view = tiltText(tilt);
  return (
    <Box component="section" aria-label={lightWords.open}>
      <ToggleButtonGroup
        exclusive
        value={show}
        onChange={(_, v: Show | null) => v && setShow(v)}
        aria-label={lightWords.show}
      >
        {(Object.keys(lightWords.shows) as Show[]).map((s) => (
          <ToggleButton key={s} value={s}>
            {lightWords.shows[s]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box sx={{ height, my: 2 }}>
        <LightPicture name={draft?.name ?? ''} stone={stone} tilt={tilt} onTilt={setTilt} />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, minHeight: 36 }}>
        <Typography color="text.secondary">
          {view},{' '}
          {lightWords.of(lighting.material, plain(lighting.refractiveIndex), mm(lighting.width))}
        </Typography>
        {view !== lightWords.faceUp && (
          <Button size="small" onClick={() => setTilt(faceUp)}>
            {lightWords.level}
          </Button>
        )}
      </Box>
      <Typography color="text.secondary" variant="body2">
        {lightWords.tiltHelp}
      </Typography>
      {look && (
        <>
          <Typography color="text.secondary" variant="body2">
            {lightWords.endsLead}:
          </Typography>
          <Box
            component="ul"
            aria-label={lightWords.endsLead}
            sx={{ listStyle: 'none', p: 0, m: 0, display: 'flex', flexWrap: 'wrap', columnGap: 4 }}
          >
            {look.ends.map((end) => (
              <Box
                component="li"
                key={end.end}
                sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}
              >
                {show === 'ends' && (
                  <Box
                    aria-hidden
                    sx={{
                      width: 14,
                      height: 14,
                      background: end.colour,
                      border: 1,
                      borderColor: 'divider',
                    }}
                  />
                )}
                <span>{lightWords.ends[end.end]}</span>
                <Typography variant="figures">{percent(end.share)}</Typography>
              </Box>
            ))}
          </Box>
        </>
      )}
      {children}
    </Box>
  );
}
