import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Mesh, Point } from '../../api/client';
import type { Flaw, Rough, RoughWorked, Trim } from '../../api/rough';
import { arrowOf, useDrag } from '../../parts/gestures/useDrag';
import { useOrbit } from '../../parts/gestures/useOrbit';
import { dot, project, turned, vec, type Camera, type Vec } from '../../parts/stone/geometry';
import { roughWords } from '../../words/rough';
import { PieceDrawn, pointsOf } from './PieceDrawn';
import { along, extentOf, eyeOf, halfWay, pointOf, rimOf, sectionOf, unitOf } from './space';

const r = roughWords;

/** A view that shows three sides alike. */
export const askew: Camera = turned({ right: [1, 0, 0], up: [0, 0, 1] }, 0.5, 0.45);

/** What of a piece is chosen. */
export interface Chosen {
  what: 'flaw' | 'trim';
  no: number;
}

interface Props {
  rough: Rough;
  worked: RoughWorked;
  stone?: Mesh;
  camera: Camera;
  onCamera: (change: (before: Camera) => Camera) => void;
  chosen: Chosen | undefined;
  onChoose: (chosen: Chosen) => void;
  onFlaw: (no: number, change: Partial<Flaw>) => void;
  onTrim: (no: number, change: Partial<Trim>) => void;
  /** A click marks a flaw there. */
  placing: boolean;
  onPlace: (at: Point) => void;
}

/** How far an arrow key moves a flaw or a saw cut, in mm. */
const nudge = 0.1;

/** The piece of rough, turned by hand; its flaws and saw cuts are grabbed on it. */
export function PieceInRound(props: Props) {
  const { rough, worked, stone, camera, onCamera, chosen, placing } = props;
  const { tokens } = useTheme();
  const svg = useRef<SVGSVGElement>(null);
  const [zoom, setZoom] = useState(1);
  const { middle, reach } = extentOf(worked.whole);
  const half = (1.08 * reach) / zoom;
  const orbit = useOrbit({
    turn: (right, down) => onCamera((c) => turned(c, -right, down)),
    across: 4,
    step: Math.PI / 24,
    home: () => {
      onCamera(() => askew);
      setZoom(1);
    },
    zoom: (factor) => setZoom((z) => Math.min(6, Math.max(0.5, z * factor))),
  });
  /** How many mm a CSS pixel is. */
  const perPixel = () => {
    const box = svg.current!.getBoundingClientRect();
    return (2 * half) / Math.min(box.width, box.height);
  };
  const [mx, my] = project(camera, middle);
  const pixel = half / 300;
  const place = (e: { clientX: number; clientY: number }) => {
    const box = svg.current!.getBoundingClientRect();
    const s = perPixel();
    const right = (e.clientX - box.left - box.width / 2) * s;
    const down = (e.clientY - box.top - box.height / 2) * s;
    const on = along(along(middle, right, camera.right), -down, camera.up);
    const at = halfWay(worked.kept, on, eyeOf(camera));
    if (at) props.onPlace(pointOf(at));
  };
  const sawn = rough.trims.length > 0;
  return (
    <Box sx={{ position: 'relative', height: '100%', minHeight: 320 }}>
      <svg
        ref={svg}
        viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`}
        role="application"
        aria-label={r.round}
        tabIndex={0}
        width="100%"
        height="100%"
        style={{
          touchAction: 'none',
          cursor: placing ? 'crosshair' : 'grab',
          position: 'absolute',
          inset: 0,
        }}
        {...orbit}
        onClick={placing ? place : undefined}
      >
        <g transform={`translate(${-mx} ${-my})`}>
          <PieceDrawn
            kept={worked.kept}
            whole={sawn ? worked.whole : undefined}
            stone={stone}
            camera={camera}
            pixel={pixel}
          />
          {rough.axis && (
            <AxisLine
              direction={unitOf(vec(rough.axis.direction))}
              middle={middle}
              reach={reach}
              camera={camera}
              pixel={pixel}
            />
          )}
          {rough.trims.map((t, i) => (
            <SawCut
              key={`t${i}`}
              no={i}
              trim={t}
              whole={worked.whole}
              camera={camera}
              pixel={pixel}
              perPixel={perPixel}
              chosen={chosen?.what === 'trim' && chosen.no === i}
              onChoose={() => props.onChoose({ what: 'trim', no: i })}
              onMove={(distance) => props.onTrim(i, { distance })}
            />
          ))}
          {rough.flaws.map((f, i) => (
            <FlawMark
              key={`f${i}`}
              no={i}
              flaw={f}
              camera={camera}
              pixel={pixel}
              perPixel={perPixel}
              chosen={chosen?.what === 'flaw' && chosen.no === i}
              colour={f.rule === 'accept' ? tokens.faint : tokens.ember}
              onChoose={() => props.onChoose({ what: 'flaw', no: i })}
              onMove={(at) => props.onFlaw(i, { at: pointOf(at) })}
            />
          ))}
        </g>
      </svg>
    </Box>
  );
}

/** An axis through the middle of the piece. It has no sense, so both its ends point. */
function AxisLine(props: {
  direction: Vec;
  middle: Vec;
  reach: number;
  camera: Camera;
  pixel: number;
}) {
  const { direction, middle, reach, camera, pixel } = props;
  const { tokens } = useTheme();
  const ends = [1, -1].map((s) => project(camera, along(middle, s * reach, direction)));
  const [[x, y], [u, v]] = ends as [[number, number], [number, number]];
  const long = Math.hypot(x - u, y - v);
  // Seen along itself it is a point.
  const [dx, dy] = long > 8 * pixel ? [(x - u) / long, (y - v) / long] : [0, 0];
  const tip = (px: number, py: number, s: number) =>
    `M${px} ${py}l${-s * 9 * pixel * dx - 5 * pixel * dy} ${-s * 9 * pixel * dy + 5 * pixel * dx}` +
    `M${px} ${py}l${-s * 9 * pixel * dx + 5 * pixel * dy} ${-s * 9 * pixel * dy - 5 * pixel * dx}`;
  return (
    <path
      d={`M${x} ${y}L${u} ${v}${tip(x, y, 1)}${tip(u, v, -1)}`}
      fill="none"
      stroke={tokens.copper}
      strokeWidth={1.6 * pixel}
      strokeDasharray={`${8 * pixel} ${3 * pixel} ${2 * pixel} ${3 * pixel}`}
    />
  );
}

interface MarkProps {
  no: number;
  camera: Camera;
  pixel: number;
  perPixel: () => number;
  chosen: boolean;
  onChoose: () => void;
}

/** Handlers for a mark that is grabbed on the piece, in place of turning the piece. */
function useGrab(
  onChoose: () => void,
  move: (right: number, up: number) => void,
  scale: () => number,
) {
  const drag = useDrag({
    begin: () => {
      onChoose();
      return true;
    },
    move: (x, y) => move(x * scale(), -y * scale()),
  });
  return {
    ...drag,
    onPointerDown: (e: PointerEvent<Element>) => {
      e.stopPropagation();
      drag.onPointerDown(e);
    },
    onKeyDown: (e: KeyboardEvent) => {
      const arrow = arrowOf(e.key);
      if (arrow) move(nudge * arrow.right, nudge * arrow.up);
      else if (e.key === 'Enter' || e.key === ' ') onChoose();
      else return;
      e.preventDefault();
      e.stopPropagation();
    },
  };
}

/** A flaw in its place. It is moved in the plane of the screen. */
function FlawMark(props: MarkProps & { flaw: Flaw; colour: string; onMove: (at: Vec) => void }) {
  const { no, flaw, camera, pixel, perPixel, chosen, colour, onChoose, onMove } = props;
  const at = vec(flaw.at);
  const grab = useGrab(
    onChoose,
    (right, up) => onMove(along(along(at, right, camera.right), up, camera.up)),
    perPixel,
  );
  const [x, y] = project(camera, at);
  const name = flaw.name || r.flaw.unnamed(no + 1);
  const size = flaw.kind === 'point' ? 4 * pixel : flaw.radius;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={r.flaw.drag(name)}
      aria-pressed={chosen}
      style={{ cursor: 'move' }}
      {...grab}
    >
      <title>{name}</title>
      {flaw.kind === 'disc' ? (
        <polygon
          points={pointsOf(camera, rimOf(at, vec(flaw.normal), flaw.radius))}
          fill={colour}
          fillOpacity={0.3}
          stroke={colour}
          strokeWidth={(chosen ? 3 : 1.5) * pixel}
        />
      ) : (
        <circle
          cx={x}
          cy={y}
          r={size}
          fill={colour}
          fillOpacity={flaw.kind === 'point' ? 1 : 0.3}
          stroke={colour}
          strokeWidth={(chosen ? 3 : 1.5) * pixel}
        />
      )}
      {/* Something to grab, however small the flaw is. */}
      <circle cx={x} cy={y} r={Math.max(size, 14 * pixel)} fill="transparent" />
      {chosen && (
        <path
          d={`M${x - 9 * pixel} ${y}h${18 * pixel}M${x} ${y - 9 * pixel}v${18 * pixel}`}
          stroke={colour}
          strokeWidth={pixel}
        />
      )}
    </g>
  );
}

/** A saw cut as its section through the piece. It is moved along its normal. */
function SawCut(
  props: MarkProps & { trim: Trim; whole: Mesh; onMove: (distance: number) => void },
) {
  const { no, trim, whole, camera, pixel, perPixel, chosen, onChoose, onMove } = props;
  const { tokens } = useTheme();
  const normal = unitOf(vec(trim.normal));
  const [right, up] = [dot(normal, camera.right), dot(normal, camera.up)];
  // Seen along its normal it is moved by up and down, else the way it lies.
  const seen = right * right + up * up;
  const grab = useGrab(
    onChoose,
    (x, y) => onMove(trim.distance + (seen > 0.02 ? (x * right + y * up) / seen : y)),
    perPixel,
  );
  const outline = sectionOf(whole, normal, trim.distance);
  if (outline.length === 0) return null;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={r.trim.drag(no + 1)}
      aria-pressed={chosen}
      style={{ cursor: 'move' }}
      {...grab}
    >
      <title>{r.trim.name(no + 1)}</title>
      <polygon
        points={pointsOf(camera, outline)}
        fill={tokens.emberWash}
        fillOpacity={0.45}
        stroke={tokens.ember}
        strokeWidth={(chosen ? 3 : 1.5) * pixel}
      />
    </g>
  );
}
