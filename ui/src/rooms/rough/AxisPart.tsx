import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { ranges } from '../../api/ranges';
import type { Rough } from '../../api/rough';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { Row } from '../../parts/Row';
import type { Camera } from '../../parts/stone/geometry';
import { roughWords } from '../../words/rough';
import { Part } from './Part';
import { Place } from './Place';
import { eyeOf, pointOf } from './space';

const r = roughWords.axis;

type Axis = NonNullable<Rough['axis']>;

interface Props {
  axis: Rough['axis'];
  camera: Camera;
  onChange: (axis: Rough['axis']) => void;
}

/** The axis of colour, light or sheen, and how the table of a stone shall lie to it. */
export function AxisPart({ axis, camera, onChange }: Props) {
  const across = pointOf(camera.right);
  if (!axis)
    return (
      <Part
        head={roughWords.parts.axis}
        add={r.add}
        onAdd={() => onChange({ kind: 'optic', direction: across, toTable: null })}
      >
        <Typography color="text.secondary">{r.none}</Typography>
      </Part>
    );
  const set = (change: Partial<Axis>) => onChange({ ...axis, ...change });
  return (
    <Part head={roughWords.parts.axis}>
      <Box sx={{ display: 'grid', gap: 3, pt: 2 }}>
        <Row>
          <PickField
            label={r.kind}
            value={axis.kind}
            options={r.kinds}
            onChange={(kind) => set({ kind })}
            width={150}
          />
          <NumberField
            label={r.toTable}
            unit="°"
            {...ranges.RoughAxis.toTable}
            optional={r.free}
            value={axis.toTable ?? undefined}
            onChange={(toTable) => set({ toTable: toTable ?? null })}
            help={r.help}
            width={150}
          />
        </Row>
        <Place
          label={r.direction}
          at={axis.direction}
          onChange={(direction) => set({ direction })}
        />
        <Row>
          <Button size="small" onClick={() => set({ direction: pointOf(eyeOf(camera)) })}>
            {r.sight}
          </Button>
          <Button size="small" onClick={() => set({ direction: across })}>
            {r.across}
          </Button>
          <Button size="small" onClick={() => onChange(null)}>
            {r.remove}
          </Button>
        </Row>
      </Box>
    </Part>
  );
}
