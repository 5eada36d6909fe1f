import TextField from '@mui/material/TextField';
import { unreadable, useTyped } from './useTyped';
import { parseNumber, plain } from '../../words/numbers';

interface Props {
  label: string;
  value: number[];
  /** The range of each, and how many there may be. */
  min: number;
  max: number;
  most: number;
  help: string;
  /** What is said of what cannot be read. */
  bad: string;
  onChange: (numbers: number[]) => void;
  width?: number;
}

/** A list of numbers, typed with blanks between them by the rules of `useTyped`. */
export function NumbersField({ label, value, min, max, most, help, bad, onChange, width }: Props) {
  const read = (text: string): number[] | typeof unreadable => {
    const all = text
      .split(/[\s;]+/)
      .filter(Boolean)
      .map(parseNumber);
    const good = all.length <= most && all.every((n) => n !== undefined && n >= min && n <= max);
    return good ? (all as number[]) : unreadable;
  };
  const typed = useTyped(value, { read, write, same });
  return (
    <TextField
      label={label}
      value={typed.text}
      onChange={(e) => {
        const numbers = typed.type(e.target.value);
        if (numbers !== unreadable) onChange(numbers);
      }}
      onBlur={typed.leave}
      error={typed.bad}
      helperText={typed.bad ? bad : help}
      sx={{ width }}
    />
  );
}

const write = (numbers: number[]): string => numbers.map(plain).join(' ');

const same = (a: number[], b: number[]): boolean => write(a) === write(b);
