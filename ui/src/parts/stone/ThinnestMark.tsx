import { useTheme } from '@mui/material/styles';
import type { Levels } from '../../api/client';
import { w } from '../../words/words';
import { project, vec, type Camera } from './geometry';

/** Whether a girdle is thin in one place and thick in another, by more than a figure shows. */
export const isUneven = (girdle: NonNullable<Levels['girdle']>): boolean =>
  girdle.max - girdle.min > 0.002;

interface Props {
  girdle: Levels['girdle'];
  camera: Camera;
  /** Drawing units per pixel. */
  pixel: number;
}

/** Where an uneven girdle is thinnest: a line from its lower edge to its upper one, with ends. */
export function ThinnestMark({ girdle, camera, pixel }: Props) {
  const { tokens } = useTheme();
  if (!girdle || !isUneven(girdle)) return null;
  const [x1, y1] = project(camera, vec(girdle.low));
  const [x2, y2] = project(camera, vec(girdle.high));
  return (
    <g stroke={tokens.ember} fill="none" data-thinnest="">
      <title>{w.drawing.thinnest}</title>
      <line x1={x1} y1={y1} x2={x2} y2={y2} strokeWidth={3 * pixel} />
      {[
        [x1, y1],
        [x2, y2],
      ].map(([x, y], i) => (
        <circle key={i} cx={x} cy={y} r={4.5 * pixel} strokeWidth={1.6 * pixel} />
      ))}
    </g>
  );
}
