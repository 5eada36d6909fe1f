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
import { faceUp, type Looking, type Show } from './looking';
import { useLook } from './useLook';
import { viewSaid } from './viewSaid';

interface Props {
  /** Undefined until there is a stone. */
  draft: Draft | undefined;
  looking: Looking;
  height: string;
  split?: boolean;
  /** The picture to begin with. */
  first?: Show;
  children?: ReactNode;
}

/** A stone under light that can be tilted, in its colour, pale, or as a map of its light. */
export function LightView({ draft, looking, height, split, first = 'colour', children }: Props) {
  const [show, setShow] = useState<Show>(first);
  const [tilt, setTilt] = useState(faceUp);
  const seen = useLook({ draft, looking, show, split, tilt });
  const { look } = seen;
  const said = viewSaid(tilt);
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
        <LightPicture name={draft?.name ?? ''} seen={seen} tilt={tilt} onTilt={setTilt} />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, minHeight: 36 }}>
        <Typography color="text.secondary">
          {said},{' '}
          {lightWords.of(looking.material, plain(looking.refractiveIndex), mm(looking.width))}
        </Typography>
        {said !== lightWords.faceUp && (
          <Button size="small" onClick={() => setTilt(faceUp)}>
            {lightWords.level}
          </Button>
        )}
      </Box>
      {look && (
        <>
          <Typography color="text.secondary" variant="body2">
            {lightWords.waysLead}:
          </Typography>
          <Box
            component="ul"
            aria-label={lightWords.waysLead}
            sx={{ listStyle: 'none', p: 0, m: 0, display: 'flex', flexWrap: 'wrap', columnGap: 4 }}
          >
            {look.ways.map((way) => (
              <Box
                component="li"
                key={way.way}
                sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}
              >
                {show === 'ways' && (
                  <Box
                    aria-hidden
                    sx={{
                      width: 14,
                      height: 14,
                      background: way.colour,
                      border: 1,
                      borderColor: 'divider',
                    }}
                  />
                )}
                <span>{lightWords.ways[way.way]}</span>
                <Typography variant="figures">{percent(way.share)}</Typography>
              </Box>
            ))}
          </Box>
        </>
      )}
      {children}
    </Box>
  );
}
