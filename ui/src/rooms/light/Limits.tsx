import Box from '@mui/material/Box';
import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { SweptPoint } from '../../api/client';
import { lightWords } from '../../words/light';
import { parseNumber } from '../../words/numbers';

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
  const change = (key: keyof Limit, per = 1) => ({
    onChange: (v: number | undefined) => set({ ...limit, [key]: v && v / per }),
  });
  return (
    <Box
      role="group"
      aria-label={s.limits}
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center', mt: 3, mb: 1 }}
    >
      <Typography sx={{ width: '100%' }}>{s.limits}</Typography>
      <LimitField label={s.margin} unit="°" {...change('margin')} />
      <LimitField label={s.height} unit="mm" {...change('height')} />
      <LimitField label={s.tableFrom} unit="%" {...change('tableFrom', 100)} />
      <LimitField label={s.tableTo} unit="%" {...change('tableTo', 100)} />
    </Box>
  );
}

/** A figure that may be left empty. */
function LimitField({
  label,
  unit,
  onChange,
}: {
  label: string;
  unit: string;
  onChange: (v: number | undefined) => void;
}) {
  const [typed, setTyped] = useState('');
  const bad = typed.trim() !== '' && parseNumber(typed) === undefined;
  return (
    <TextField
      label={label}
      value={typed}
      error={bad}
      placeholder={lightWords.sweep.none}
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(parseNumber(e.target.value));
      }}
      sx={{ width: 155 }}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { inputMode: 'decimal', autoComplete: 'off' },
        input: { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> },
      }}
    />
  );
}
