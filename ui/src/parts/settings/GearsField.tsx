import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { ranges } from '../../api/ranges';
import { machineWords as m } from '../../words/machine';
import { useUnreadable } from '../fields/unreadable';

interface Props {
  value: number[];
  onChange: (gears: number[]) => void;
}

const { min, max } = ranges.Machine.gears;

/**
 * The gears at hand, typed as numbers of teeth. What is typed stays as it was typed, for as long
 * as it says what the value is; gears that change from outside take its place.
 */
export function GearsField({ value, onChange }: Props) {
  const listed = value.join(' ');
  const [typed, setTyped] = useState({ text: listed, over: listed });
  const reading = parseGears(typed.text);
  const current = reading ? reading.join(' ') === listed : typed.over === listed;
  const bad = current && !reading;
  useUnreadable(bad);
  return (
    <TextField
      label={m.gears}
      value={current ? typed.text : listed}
      onChange={(e) => {
        setTyped({ text: e.target.value, over: listed });
        const gears = parseGears(e.target.value);
        if (gears) onChange(gears);
      }}
      error={bad}
      helperText={bad ? m.gearsBad(min, max) : m.gearsHelp}
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
  const good = teeth.length > 0 && teeth.every((n) => Number.isInteger(n) && n >= min && n <= max);
  return good ? teeth : undefined;
}
