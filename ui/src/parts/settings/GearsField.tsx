import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { useUnreadable } from '../fields/unreadable';
import { machineWords as m } from '../../words/machine';

interface Props {
  value: number[];
  onChange: (gears: number[]) => void;
}

/** The gears at hand, typed as numbers of teeth. */
export function GearsField({ value, onChange }: Props) {
  const [typed, setTyped] = useState(value.join(' '));
  const bad = !parseGears(typed);
  useUnreadable(bad);
  return (
    <TextField
      label={m.gears}
      value={typed}
      onChange={(e) => {
        setTyped(e.target.value);
        const gears = parseGears(e.target.value);
        if (gears) onChange(gears);
      }}
      error={bad}
      helperText={bad ? m.gearsBad : m.gearsHelp}
      sx={{ width: 260 }}
    />
  );
}

/** Reads numbers of teeth; undefined where one is none. */
function parseGears(text: string): number[] | undefined {
  const teeth = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const good = teeth.length > 0 && teeth.every((n) => Number.isInteger(n) && n >= 1 && n <= 360);
  return good ? teeth : undefined;
}
