import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Point } from '../../api/client';
import { ranges } from '../../api/ranges';
import { NumberField } from '../../parts/fields/NumberField';
import { Row } from '../../parts/Row';

/** Three figures: a place in mm, or a direction. */
export function Place({
  label,
  at,
  onChange,
}: {
  label: string;
  at: Point;
  onChange: (at: Point) => void;
}) {
  return (
    <Box role="group" aria-label={label}>
      <Typography variant="body2" color="text.secondary" gutterBottom>
        {label}
      </Typography>
      <Row>
        {(['x', 'y', 'z'] as const).map((axis) => (
          <NumberField
            key={axis}
            label={axis}
            {...ranges.RoughTrim.distance}
            value={Math.round(1000 * at[axis]) / 1000}
            onChange={(v) => onChange({ ...at, [axis]: v })}
            width={94}
          />
        ))}
      </Row>
    </Box>
  );
}
