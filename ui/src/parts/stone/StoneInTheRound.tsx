import { useRef, useState } from 'react';
import type { Levels, Mesh } from '../../api/client';
import { w } from '../../words/words';
import { useOrbit } from '../gestures/useOrbit';
import {
  facesAfter,
  lastStep,
  lookingAt,
  placeAt,
  reachOf,
  turned,
  visibleFaces,
  type Camera,
  type Side,
  type Vec,
} from './geometry';
import { StoneFaces, type StoneMarks } from './StoneFaces';

interface Props extends StoneMarks {
  mesh: Mesh;
  /** The moment of the cutting; the finished stone where it is left out. */
  step?: number;
  levels: Span;
  onPick?: (facet: number) => void;
  /** Told a point of the stone that was pointed at, with its facet; Enter points at the middle of what is seen. */
  onPoint?: ((at: Vec, facet: number) => void) | undefined;
  /** How it is turned, where other stones are turned with it. */
  round?: Round;
  label?: string;
}

/** A view onto the side that is up, so much from aside that the girdle is seen. */
export const ontoSide = (up: Side): Camera => turned(lookingAt(up), 0, -0.5);

/** A view that shows crown and pavilion alike: from the side, a little above the girdle. */
const start: Camera = turned({ right: [1, 0, 0], up: [0, 0, 1] }, 0.35, 0.45);

/** How stones are turned that turn together. */
export type Round = ReturnType<typeof useRound>;

/** Turning that begins with a view; that from the side where none is given. */
export function useRound(first: Camera = start) {
  const [camera, setCamera] = useState(first);
  const [zoom, setZoom] = useState(1);
  const orbit = useOrbit({
    turn: (right, down) => setCamera((c) => turned(c, -right, down)),
    across: 4,
    step: Math.PI / 24,
    home: () => {
      setCamera(first);
      setZoom(1);
    },
    zoom: (factor) => setZoom((z) => Math.min(6, Math.max(0.5, z * factor))),
  });
  return { camera, zoom, orbit };
}

type Span = Pick<Levels, 'top' | 'bottom'>;

/** How far a drawing reaches from its middle, and by how much the stone is moved to lie there. */
function framed(mesh: Mesh, levels: Span, camera: Camera, zoom: number) {
  // The origin is the first centre point; the drawing turns about the stone's middle.
  // As long as the block is there it reaches far beyond the stone, both ways.
  const tall = levels.top - levels.bottom;
  const cut = tall < 8 * reachOf(mesh);
  const middle = cut ? (levels.bottom + levels.top) / 2 : 0;
  const half = (1.25 * Math.max(reachOf(mesh), cut ? tall / 2 : 0)) / zoom;
  return { half, across: -middle * camera.right[2], down: middle * camera.up[2] };
}

/** A small picture of a stone that is turned with others. */
export function StoneTurned(props: {
  mesh: Mesh;
  levels: Span;
  camera: Camera;
  label: string;
  selected: ReadonlySet<number>;
}) {
  const { mesh, levels, camera, label, selected } = props;
  const { half, across, down } = framed(mesh, levels, camera, 1);
  return (
    <svg
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      role="img"
      aria-label={label}
      width="100%"
      height="100%"
    >
      <g transform={`translate(${across} ${down})`}>
        <StoneFaces
          mesh={mesh}
          step={lastStep(mesh)}
          camera={camera}
          pixel={half / 90}
          selected={selected}
        />
      </g>
    </svg>
  );
}

/** The stone in the round: turned by dragging, by touch, and by the arrow keys. */
export function StoneInTheRound(props: Props) {
  const { mesh, step = lastStep(mesh), levels, onPick, onPoint, round, label, ...marks } = props;
  const own = useRound();
  const { camera, zoom, orbit } = round ?? own;
  const svg = useRef<SVGSVGElement>(null);
  const { half, across, down } = framed(mesh, levels, camera, zoom);
  /** Points at what is seen so many px right of and below the middle of the drawing. */
  const point = (x: number, y: number) => {
    const box = svg.current!.getBoundingClientRect();
    const unit = (2 * half) / Math.min(box.width, box.height);
    const there = visibleFaces(mesh, facesAfter(mesh, step), camera);
    const found = placeAt(there, camera, [x * unit - across, y * unit - down]);
    if (found) onPoint?.(found.at, found.facet);
  };
  return (
    <svg
      ref={svg}
      viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
      role="application"
      aria-label={label ?? w.drawing.round}
      tabIndex={0}
      width="100%"
      height="100%"
      style={{ touchAction: 'none', cursor: onPoint ? 'crosshair' : 'grab' }}
      {...orbit}
      {...(onPoint && {
        onClick: (e) => {
          const box = e.currentTarget.getBoundingClientRect();
          point(e.clientX - box.left - box.width / 2, e.clientY - box.top - box.height / 2);
        },
        onKeyDown: (e) => {
          if (e.key === 'Enter' && e.target === e.currentTarget) point(0, 0);
          else orbit.onKeyDown(e);
        },
      })}
    >
      <g transform={`translate(${across} ${down})`}>
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
