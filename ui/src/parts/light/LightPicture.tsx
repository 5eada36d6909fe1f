import Box from '@mui/material/Box';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { lightWords } from '../../words/light';
import { Refusal } from '../Refusal';
import { faceUp, tilted, type Tilt } from './looking';
import type { Seen } from './useLook';
import { viewSaid } from './viewSaid';

interface Props {
  /** What the stone is called. */
  name: string;
  seen: Seen;
  tilt: Tilt;
  onTilt: (change: (t: Tilt) => Tilt) => void;
}

/** Degrees of tilt for the width of the picture that is dragged across it. */
const across = 90;
const keyStep = 5;

/** The stone as the eye sees it, tilted by dragging, by touch and by the arrow keys. */
export function LightPicture({ name, seen, tilt, onTilt }: Props) {
  const { look, done, error } = seen;
  const from = useRef<{ x: number; y: number }>(undefined);
  const drag = (e: PointerEvent<HTMLElement>) => {
    if (!(e.buttons & 1) || !from.current) return;
    const scale = across / e.currentTarget.clientWidth;
    const by = { x: (e.clientX - from.current.x) * scale, y: (e.clientY - from.current.y) * scale };
    from.current = { x: e.clientX, y: e.clientY };
    // What is grabbed follows the hand, so the eye goes the other way round the stone.
    onTilt((t) => tilted(t, -by.x, by.y));
  };
  const key = (e: KeyboardEvent) => {
    const move: Record<string, [number, number]> = {
      ArrowLeft: [keyStep, 0],
      ArrowRight: [-keyStep, 0],
      ArrowUp: [0, -keyStep],
      ArrowDown: [0, keyStep],
    };
    const by = move[e.key];
    if (by) onTilt((t) => tilted(t, ...by));
    else if (e.key === 'Home') onTilt(() => faceUp);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
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
        aria-label={lightWords.picture(name, viewSaid(tilt))}
        aria-busy={!done}
        tabIndex={0}
        title={lightWords.tiltHelp}
        onPointerDown={(e) => {
          from.current = { x: e.clientX, y: e.clientY };
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={drag}
        onKeyDown={key}
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
