import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useEffect, useState, type MouseEvent } from 'react';
import type { Silhouette } from '../../api/rough';
import { NumberField } from '../../parts/fields/NumberField';
import { Row } from '../../parts/Row';
import { measureWords } from '../../words/measure';
import { w } from '../../words/words';
import { cornersOf, nextClick } from './outline';

const k = measureWords.outlines;

interface Props {
  gear: number;
  onKeep: (outline: Silhouette) => void;
  onClose: () => void;
}

/** What is clicked first, and as many corners as an outline may have. */
const mostPoints = 4 + 60;

interface Photo {
  url: string;
  width: number;
  height: number;
}

/** An outline, clicked on a photo: the axis, a length for the scale, and the outermost corners. */
export function PhotoOutline({ gear, onKeep, onClose }: Props) {
  const { tokens } = useTheme();
  const [photo, setPhoto] = useState<Photo>();
  const [points, setPoints] = useState<[number, number][]>([]);
  const [index, setIndex] = useState(gear);
  const [length, setLength] = useState(6);
  const [off, setOff] = useState(0.1);
  useEffect(() => () => void (photo && URL.revokeObjectURL(photo.url)), [photo]);
  const choose = (file: File | undefined) => {
    if (!file) return;
    const url = URL.createObjectURL(file);
    const image = new Image();
    image.onload = () => {
      setPhoto({ url, width: image.naturalWidth, height: image.naturalHeight });
      setPoints([]);
    };
    image.src = url;
  };
  const click = (e: MouseEvent<SVGSVGElement>) => {
    const at = new DOMPoint(e.clientX, e.clientY).matrixTransform(
      e.currentTarget.getScreenCTM()!.inverse(),
    );
    setPoints((p) => (p.length < mostPoints ? [...p, [at.x, at.y]] : p));
  };
  const corners = cornersOf({ points }, length);
  const pixel = photo ? photo.width / 700 : 1;
  const [foot, axis, from, to, ...rest] = points;
  const line = (a: [number, number] | undefined, b: [number, number] | undefined, dash: boolean) =>
    a &&
    b && (
      <line
        x1={a[0]}
        y1={a[1]}
        x2={b[0]}
        y2={b[1]}
        stroke={tokens.ember}
        strokeWidth={2 * pixel}
        strokeDasharray={dash ? `${8 * pixel} ${5 * pixel}` : undefined}
      />
    );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>{k.title}</DialogTitle>
      <DialogContent>
        <Row>
          <Button component="label" variant={photo ? 'outlined' : 'contained'} sx={{ mt: 1 }}>
            {k.file}
            <input
              type="file"
              accept="image/*"
              hidden
              onChange={(e) => choose(e.target.files?.[0])}
            />
          </Button>
          <Box sx={{ pt: 1, display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            <NumberField
              label={k.index}
              min={0}
              max={gear}
              value={index}
              onChange={setIndex}
              width={300}
            />
            <NumberField
              label={k.length}
              unit="mm"
              min={0.1}
              max={500}
              value={length}
              onChange={setLength}
              width={150}
            />
            <NumberField
              label={k.off}
              unit="mm"
              min={0}
              max={10}
              value={off}
              onChange={setOff}
              width={190}
            />
          </Box>
        </Row>
        {photo && (
          <>
            <Typography role="status" sx={{ my: 2 }}>
              {k.steps[nextClick(points.length)]}
            </Typography>
            <svg
              viewBox={`0 0 ${photo.width} ${photo.height}`}
              role="img"
              aria-label={k.photo}
              style={{ width: '100%', maxHeight: '60vh', cursor: 'crosshair', touchAction: 'none' }}
              onClick={click}
            >
              <image href={photo.url} width={photo.width} height={photo.height} />
              {line(foot, axis, true)}
              {line(from, to, false)}
              <polygon
                points={rest.map((p) => p.join()).join(' ')}
                fill={tokens.copper}
                fillOpacity={0.25}
                stroke={tokens.copper}
                strokeWidth={2 * pixel}
              />
              {points.map(([x, y], i) => (
                <circle key={i} cx={x} cy={y} r={4 * pixel} fill={tokens.ember} />
              ))}
            </svg>
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button disabled={points.length === 0} onClick={() => setPoints((p) => p.slice(0, -1))}>
          {k.undo}
        </Button>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!corners}
          onClick={() => corners && onKeep({ index, off, corners })}
        >
          {k.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
