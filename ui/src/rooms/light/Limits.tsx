import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { SweptPoint } from '../../api/client';
import { NumberField } from '../../parts/fields/NumberField';
import { lightWords } from '../../words/light';

/** Limits that a point must keep; what is undefined limits nothing. */
export interface Limit {
  /** Degrees above the critical angle. */
  margin?: number;
  /** In mm. */
  height?: number;
  /** Shares of the width. */
  tableFrom?: number;
  tableTo?: number;
}

interface Range {
  min: number;
  max: number;
}

/** Whether a point keeps within the limits. */
export const within = (p: SweptPoint, l: Limit): boolean =>
  !(
    p.margin < (l.margin ?? -Infinity) ||
    p.height > (l.height ?? Infinity) ||
    p.tableWidth < (l.tableFrom ?? -Infinity) ||
    p.tableWidth > (l.tableTo ?? Infinity)
  );

/** Fields for the limits: margin, height at hand, the table's range. */
export function Limits({ limit, set }: { limit: Limit; set: (l: Limit) => void }) {
  const s = lightWords.sweep;
  const field = (key: keyof Limit, label: string, unit: string, range: Range, per = 1) => (
    <NumberField
      label={label}
      unit={unit}
      {...range}
      value={limit[key] === undefined ? undefined : limit[key] * per}
      onChange={(v) => set({ ...limit, [key]: v === undefined ? undefined : v / per })}
      optional={s.none}
      width={155}
    />
  );
  return (
    <Box
      role="group"
      aria-label={s.limits}
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center', mt: 3, mb: 1 }}
    >
      <Typography sx={{ width: '100%' }}>{s.limits}</Typography>
      {field('margin', s.margin, '°', { min: -90, max: 90 })}
      {field('height', s.height, 'mm', { min: 0, max: 500 })}
      {field('tableFrom', s.tableFrom, '%', { min: 0, max: 100 }, 100)}
      {field('tableTo', s.tableTo, '%', { min: 0, max: 100 }, 100)}
    </Box>
  );
}
