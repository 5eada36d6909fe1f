import { useState } from 'react';
import type { Levels, Mesh } from '../../api/client';
import { w } from '../../words/words';
import { useOrbit } from '../gestures/useOrbit';
import { lastStep, reachOf, turned, type Camera } from './geometry';
import { StoneFaces, type StoneMarks } from './StoneFaces';

interface Props extends StoneMarks {
  mesh: Mesh;
  /** The moment of the cutting; the finished stone where it is left out. */
  step?: number;
  levels: Levels;
  onPick?: (facet: number) => void;
}

/** A view that shows crown and pavilion alike: from the side, a little above the girdle. */
const start: Camera = turned({ right: [1, 0, 0], up: [0, 0, 1] }, 0.35, 0.45);

/** The stone in the round: turned by dragging, by touch, and by the arrow keys. */
export function StoneInTheRound({ mesh, step = lastStep(mesh), levels, onPick, ...marks }: Props) {
  const [camera, setCamera] = useState(start);
  const [zoom, setZoom] = useState(1);
  const orbit = useOrbit({
    turn: (right, down) => setCamera((c) => turned(c, -right, down)),
    across: 4,
    step: Math.PI / 24,
    home: () => {
      setCamera(start);
      setZoom(1);
    },
    zoom: (factor) => setZoom((z) => Math.min(6, Math.max(0.5, z * factor))),
  });
  // The origin is the first centre point; the drawing turns about the stone's middle.
  // As long as the block is there it reaches far beyond the stone, both ways.
  const tall = levels.top - levels.bottom;
  const cut = tall < 8 * reachOf(mesh);
  const middle = cut ? (levels.bottom + levels.top) / 2 : 0;
  const half = (1.25 * Math.max(reachOf(mesh), cut ? tall / 2 : 0)) / zoom;
  return (
    <svg
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      role="application"
      aria-label={w.drawing.round}
      tabIndex={0}
      width="100%"
      height="100%"
      style={{ touchAction: 'none', cursor: 'grab' }}
      {...orbit}
    >
      <g transform={`translate(${-middle * camera.right[2]} ${middle * camera.up[2]})`}>
        <StoneFaces
          mesh={mesh}
          step={step}
          camera={camera}
          pixel={half / 260}
          onPick={onPick}
          {...marks}
        />
      </g>
    </svg>
  );
}
