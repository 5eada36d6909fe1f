import { useTheme } from '@mui/material/styles';
import type { KeyboardEvent, PointerEvent } from 'react';
import type { Mesh } from '../../api/client';
import type { Flaw, Sighted, Trim, Zone } from '../../api/rough';
import { arrowOf, useDrag } from '../../parts/gestures/useDrag';
import { dot, project, vec, type Camera, type Vec } from '../../parts/stone/geometry';
import { roughWords } from '../../words/rough';
import { colourOf } from './colour';
import { pointsOf } from './PieceDrawn';
import { along, middleOf, pointOf, rimOf, sectionOf, unitOf } from './space';

/** What is marked on a piece and grabbed there: its axis, flaws, saw cuts and zones of colour. */

const r = roughWords;

/** How far an arrow key moves a flaw or a plane, in mm. */
const nudge = 0.1;

/** An axis through the middle of the piece. It has no sense, so both its ends point. */
export function AxisLine(props: {
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

export interface MarkProps {
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
  step = nudge,
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
      if (arrow) move(step * arrow.right, step * arrow.up);
      else if (e.key === 'Enter' || e.key === ' ') onChoose();
      else return;
      e.preventDefault();
      e.stopPropagation();
    },
  };
}

/** A flaw in its place. It is moved in the plane of the screen. */
export function FlawMark(
  props: MarkProps & { flaw: Flaw; colour: string; onMove: (at: Vec) => void },
) {
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

/** How far along its normal a plane goes as the pointer goes so far over the screen. */
function alongNormal(normal: Vec, camera: Camera, x: number, y: number): number {
  const [right, up] = [dot(normal, camera.right), dot(normal, camera.up)];
  // Seen along its normal it is moved by up and down, else the way it lies.
  const seen = right * right + up * up;
  return seen > 0.02 ? (x * right + y * up) / seen : y;
}

/** A saw cut as its section through the piece. It is moved along its normal, and turned by its handle. */
export function SawCut(
  props: MarkProps & { trim: Trim; whole: Mesh; onMove: (change: Partial<Trim>) => void },
) {
  const { no, trim, whole, camera, pixel, perPixel, chosen, onChoose, onMove } = props;
  const { tokens } = useTheme();
  const normal = unitOf(vec(trim.normal));
  const grab = useGrab(
    onChoose,
    (x, y) => onMove({ distance: trim.distance + alongNormal(normal, camera, x, y) }),
    perPixel,
  );
  const outline = sectionOf(whole, normal, trim.distance);
  if (outline.length === 0) return null;
  return (
    <g>
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
      {chosen && (
        <TurnHandle
          {...props}
          name={r.trim.turn(no + 1)}
          normal={normal}
          middle={middleOf(outline)}
          colour={tokens.ember}
          onTurn={(n, middle) => onMove({ normal: pointOf(n), distance: dot(n, middle) })}
        />
      )}
    </g>
  );
}

/** A zone of colour as the two planes between which it lies. Each is moved, and both are turned together. */
export function ZoneMark(
  props: MarkProps & { zone: Zone; whole: Mesh; onMove: (change: Partial<Zone>) => void },
) {
  const { no, zone, whole, camera, onMove, chosen } = props;
  const normal = unitOf(vec(zone.normal));
  const colour = colourOf(zone.rgb);
  const middle = middleOf([
    ...sectionOf(whole, normal, zone.from),
    ...sectionOf(whole, normal, zone.to),
  ]);
  return (
    <g>
      {(['from', 'to'] as const).map((side) => (
        <ZoneSide
          key={side}
          {...props}
          name={r.zone.drag(no + 1, side)}
          outline={sectionOf(whole, normal, zone[side])}
          colour={colour}
          onMove={(x, y) => onMove({ [side]: zone[side] + alongNormal(normal, camera, x, y) })}
        />
      ))}
      {chosen && middle && (
        <TurnHandle
          {...props}
          name={r.zone.turn(no + 1)}
          normal={normal}
          middle={middle}
          colour={colour}
          onTurn={(n, at) => {
            const moved = dot(n, at) - dot(normal, at);
            onMove({ normal: pointOf(n), from: zone.from + moved, to: zone.to + moved });
          }}
        />
      )}
    </g>
  );
}

function ZoneSide(
  props: MarkProps & {
    name: string;
    outline: Vec[];
    colour: string;
    onMove: (right: number, up: number) => void;
  },
) {
  const { name, outline, colour, camera, pixel, perPixel, chosen, onChoose, onMove } = props;
  const grab = useGrab(onChoose, onMove, perPixel);
  if (outline.length === 0) return null;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={name}
      aria-pressed={chosen}
      style={{ cursor: 'move' }}
      {...grab}
    >
      <title>{name}</title>
      <polygon
        points={pointsOf(camera, outline)}
        fill={colour}
        fillOpacity={0.35}
        stroke={colour}
        strokeWidth={(chosen ? 3 : 1.5) * pixel}
      />
    </g>
  );
}

/** How far an arrow key turns a plane, as a share of the handle's length. */
const turnStep = 0.03;

/** The tip of a plane's normal: dragged, it turns the plane about its middle. */
function TurnHandle(
  props: MarkProps & {
    name: string;
    normal: Vec;
    middle: Vec | undefined;
    colour: string;
    onTurn: (normal: Vec, middle: Vec) => void;
  },
) {
  const { name, normal, middle, colour, camera, pixel, perPixel, onChoose, onTurn } = props;
  const arm = 70 * pixel;
  const grab = useGrab(
    onChoose,
    (right, up) => {
      if (!middle) return;
      const share = (v: number) => v / arm;
      const tip = along(along(normal, share(right), camera.right), share(up), camera.up);
      onTurn(unitOf(tip), middle);
    },
    perPixel,
    turnStep * arm,
  );
  if (!middle) return null;
  const [x, y] = project(camera, middle);
  const [u, v] = project(camera, along(middle, arm, normal));
  return (
    <g role="button" tabIndex={0} aria-label={name} style={{ cursor: 'grab' }} {...grab}>
      <title>{name}</title>
      <path d={`M${x} ${y}L${u} ${v}`} stroke={colour} strokeWidth={1.5 * pixel} />
      <circle cx={u} cy={v} r={7 * pixel} fill={colour} />
      <circle cx={u} cy={v} r={18 * pixel} fill="transparent" />
    </g>
  );
}

/** A line of sight inside the piece, from where it enters. */
export function SightLine({
  line,
  camera,
  pixel,
}: {
  line: Sighted['lines'][number];
  camera: Camera;
  pixel: number;
}) {
  const { tokens } = useTheme();
  const [x, y] = project(camera, vec(line.from));
  const [u, v] = project(camera, vec(line.to));
  return (
    <g pointerEvents="none">
      <path
        d={`M${x} ${y}L${u} ${v}`}
        stroke={tokens.ember}
        strokeWidth={1.5 * pixel}
        strokeDasharray={`${6 * pixel} ${4 * pixel}`}
      />
      <circle cx={x} cy={y} r={4 * pixel} fill={tokens.ember} />
    </g>
  );
}
