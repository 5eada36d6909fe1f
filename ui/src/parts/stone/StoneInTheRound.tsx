import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Levels, Mesh } from '../../api/client';
import { w } from '../../words/words';
import { reachOf, turned, type Camera } from './geometry';
import { StoneFaces, type StoneMarks } from './StoneFaces';

interface Props extends StoneMarks {
  mesh: Mesh;
  step: number;
  levels: Levels;
  onPick?: (facet: number) => void;
}

/** A view that shows crown and pavilion alike: from the side, a little above the girdle. */
const start: Camera = turned({ right: [1, 0, 0], up: [0, 0, 1] }, 0.35, 0.45);
const keyTurn = Math.PI / 24;

/** The stone in the round: turned by dragging, by touch, and by the arrow keys. */
export function StoneInTheRound({ mesh, step, levels, onPick, ...marks }: Props) {
  const [camera, setCamera] = useState(start);
  const [zoom, setZoom] = useState(1);
  const drag = (e: PointerEvent<SVGSVGElement>) => {
    if (!(e.buttons & 1)) return;
    // Captured only once it moves, so that a plain click still picks a facet.
    e.currentTarget.setPointerCapture(e.pointerId);
    const size = e.currentTarget.clientWidth / 4;
    setCamera((c) => turned(c, -e.movementX / size, e.movementY / size));
  };
  const key = (e: KeyboardEvent) => {
    const move: Record<string, [number, number]> = {
      ArrowLeft: [keyTurn, 0],
      ArrowRight: [-keyTurn, 0],
      ArrowUp: [0, -keyTurn],
      ArrowDown: [0, keyTurn],
    };
    const by = move[e.key];
    if (by) setCamera((c) => turned(c, ...by));
    else if (e.key === '+' || e.key === '=') setZoom((z) => Math.min(z * 1.25, 6));
    else if (e.key === '-') setZoom((z) => Math.max(z / 1.25, 0.5));
    else if (e.key === 'Home') {
      setCamera(start);
      setZoom(1);
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
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
      onPointerMove={drag}
      onKeyDown={key}
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
