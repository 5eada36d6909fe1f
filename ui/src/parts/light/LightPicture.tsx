import Box from '@mui/material/Box';
import { lightWords } from '../../words/light';
import { useOrbit } from '../gestures/useOrbit';
import { Refusal } from '../forms/Refusal';
import { faceUp, tilted, type Tilt } from './lighting';
import type { LitStone } from './useLook';
import { tiltText } from './tiltText';

interface Props {
  /** What the stone is called. */
  name: string;
  stone: LitStone;
  tilt: Tilt;
  onTilt: (change: (t: Tilt) => Tilt) => void;
}

/** The stone as the eye sees it, tilted by dragging, by touch and by the arrow keys. */
export function LightPicture({ name, stone, tilt, onTilt }: Props) {
  const { look, done, error } = stone;
  const orbit = useOrbit({
    // What is grabbed follows the hand, so the eye goes the other way round the stone.
    turn: (right, down) => onTilt((t) => tilted(t, -right, down)),
    across: 90,
    step: 5,
    home: () => onTilt(() => faceUp),
  });
  return (
    <Box
      sx={{
        position: 'relative',
        width: '100%',
        height: '100%',
        display: 'flex',
        justifyContent: 'center',
      }}
    >
      <Box
        role="application"
        aria-label={lightWords.picture(name, tiltText(tilt))}
        aria-busy={!done}
        aria-description={lightWords.tiltHelp}
        tabIndex={0}
        {...orbit}
        sx={{
          aspectRatio: '1',
          height: '100%',
          maxWidth: '100%',
          touchAction: 'none',
          cursor: 'grab',
        }}
      >
        {look && (
          <Box
            component="img"
            src={look.picture}
            alt=""
            draggable={false}
            sx={{ width: '100%', height: '100%', objectFit: 'contain', display: 'block' }}
          />
        )}
        <Refusal error={error} />
      </Box>
    </Box>
  );
}
