import Box from '@mui/material/Box';
import type { ComponentProps } from 'react';
import { useOrbit } from '../../parts/gestures/useOrbit';
import { turned, type Camera } from '../../parts/stone/geometry';
import { PieceSmall } from './PieceDrawn';
import { askew } from './PieceInRound';

interface Props extends ComponentProps<typeof PieceSmall> {
  /** What is drawn, for who cannot see it. */
  label: string;
  onCamera: (change: (before: Camera) => Camera) => void;
}

/** A small drawing of a piece that is turned by hand; several turn together by one camera. */
export function PieceTurned({ label, onCamera, ...drawn }: Props) {
  const orbit = useOrbit({
    turn: (right, down) => onCamera((cam) => turned(cam, -right, down)),
    across: 4,
    step: Math.PI / 24,
    home: () => onCamera(() => askew),
  });
  return (
    <Box
      role="application"
      aria-label={label}
      tabIndex={0}
      {...orbit}
      sx={{ touchAction: 'none', cursor: 'grab', my: 1 }}
    >
      <PieceSmall {...drawn} />
    </Box>
  );
}
