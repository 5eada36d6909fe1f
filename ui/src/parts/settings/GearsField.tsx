import TextField from '@mui/material/TextField';
import { ranges } from '../../api/ranges';
import { machineWords as m } from '../../words/machine';
import { unreadable, useTyped } from '../fields/useTyped';

interface Props {
  value: number[];
  onChange: (gears: number[]) => void;
}

const { min, max } = ranges.Machine.gears;

/** The gears at hand, typed as numbers of teeth by the rules of `useTyped`. */
export function GearsField({ value, onChange }: Props) {
  const { text, bad, type, leave } = useTyped(value, { read, write, same });
  return (
    <TextField
      label={m.gears}
      value={text}
      onChange={(e) => {
        const gears = type(e.target.value);
        if (gears !== unreadable) onChange(gears);
      }}
      onBlur={leave}
      error={bad}
      helperText={bad ? m.gearsBad(min, max) : m.gearsHelp}
      sx={{ width: 260 }}
    />
  );
}

const write = (gears: number[]): string => gears.join(' ');

const same = (a: number[], b: number[]): boolean => write(a) === write(b);

function read(text: string): number[] | typeof unreadable {
  const teeth = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const good = teeth.length > 0 && teeth.every((n) => Number.isInteger(n) && n >= min && n <= max);
  return good ? teeth : unreadable;
}
