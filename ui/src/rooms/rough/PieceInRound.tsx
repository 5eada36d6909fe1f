import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { useRef, useState } from 'react';
import type { Mesh, Point } from '../../api/client';
import type { Flaw, Rough, RoughWorked, Sighted, Sighting, Trim, Zone } from '../../api/rough';
import { useOrbit } from '../../parts/gestures/useOrbit';
import { project, turned, vec, type Camera } from '../../parts/stone/geometry';
import { roughWords } from '../../words/rough';
import { PieceDrawn } from './PieceDrawn';
import { AxisLine, FlawMark, SawCut, SightLine, ZoneMark, type MarkProps } from './PieceMarks';
import { along, extentOf, eyeOf, halfWay, pointOf, unitOf } from './space';

const r = roughWords;

/** A view that shows three sides alike. */
export const askew: Camera = turned({ right: [1, 0, 0], up: [0, 0, 1] }, 0.5, 0.45);

/** What of a piece is chosen. */
export interface Chosen {
  what: 'flaw' | 'trim' | 'zone';
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
  onZone: (no: number, change: Partial<Zone>) => void;
  /** A click marks a flaw there. */
  placing: boolean;
  onPlace: (at: Point) => void;
  /** A click tells where something is seen from here; undefined where nothing is sighted. */
  onSight: ((sighting: Sighting) => void) | undefined;
  /** Lines of sight inside the piece. */
  lines: Sighted['lines'];
}

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
  /** Takes what is seen so many mm right and below the middle. */
  const point = (right: number, down: number) => {
    const on = along(along(middle, right, camera.right), -down, camera.up);
    const eye = eyeOf(camera);
    if (props.onSight) return props.onSight({ at: pointOf(on), eye: pointOf(eye) });
    const at = halfWay(worked.kept, on, eye);
    if (at) props.onPlace(pointOf(at));
  };
  const click = (e: { clientX: number; clientY: number }) => {
    const box = svg.current!.getBoundingClientRect();
    const s = perPixel();
    point((e.clientX - box.left - box.width / 2) * s, (e.clientY - box.top - box.height / 2) * s);
  };
  const sawn = rough.trims.length > 0;
  const pointing = placing || props.onSight !== undefined;
  const mark = (what: Chosen['what'], no: number): MarkProps => ({
    no,
    camera,
    pixel,
    perPixel,
    chosen: chosen?.what === what && chosen.no === no,
    onChoose: () => props.onChoose({ what, no }),
  });
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
          cursor: pointing ? 'crosshair' : 'grab',
          position: 'absolute',
          inset: 0,
        }}
        {...orbit}
        onClick={pointing ? click : undefined}
        onKeyDown={(e) => {
          // Without a mouse the piece is turned until what is seen lies in the middle.
          if (pointing && e.key === 'Enter' && e.target === e.currentTarget) point(0, 0);
          else orbit.onKeyDown(e);
        }}
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
          {rough.colour?.zones.map((z, i) => (
            <ZoneMark
              key={`z${i}`}
              {...mark('zone', i)}
              zone={z}
              whole={worked.whole}
              onMove={(change) => props.onZone(i, change)}
            />
          ))}
          {rough.trims.map((t, i) => (
            <SawCut
              key={`t${i}`}
              {...mark('trim', i)}
              trim={t}
              whole={worked.whole}
              onMove={(change) => props.onTrim(i, change)}
            />
          ))}
          {rough.flaws.map((f, i) => (
            <FlawMark
              key={`f${i}`}
              {...mark('flaw', i)}
              flaw={f}
              colour={f.rule === 'accept' ? tokens.faint : tokens.ember}
              onMove={(at) => props.onFlaw(i, { at: pointOf(at) })}
            />
          ))}
          {props.lines.map((l, i) => (
            <SightLine key={`l${i}`} line={l} camera={camera} pixel={pixel} />
          ))}
        </g>
      </svg>
    </Box>
  );
}
