import TextField from '@mui/material/TextField';
import { taking, type Measurable } from '../instruments/ReadingOffer';
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
  /** What instruments may add to the list. */
  measures?: Measurable;
}

/** A list of numbers, typed with blanks between them by the rules of `useTyped`. */
export function NumbersField(props: Props) {
  const { label, value, min, max, most, help, bad, onChange, width, measures } = props;
  const read = (text: string): number[] | typeof unreadable => {
    const all = text
      .split(/[\s;]+/)
      .filter(Boolean)
      .map(parseNumber);
    const good = all.length <= most && all.every((n) => n !== undefined && n >= min && n <= max);
    return good ? (all as number[]) : unreadable;
  };
  const typed = useTyped(value, { read, write, same });
  const enter = (text: string) => {
    const numbers = typed.type(text);
    if (numbers !== unreadable) onChange(numbers);
  };
  return (
    <TextField
      label={label}
      value={typed.text}
      onChange={(e) => enter(e.target.value)}
      onKeyDown={taking(measures, (v) => enter(`${typed.text.trimEnd()} ${v}`.trimStart()))}
      onBlur={typed.leave}
      error={typed.bad}
      helperText={typed.bad ? bad : help}
      sx={{ width }}
    />
  );
}

const write = (numbers: number[]): string => numbers.map(plain).join(' ');

const same = (a: number[], b: number[]): boolean => write(a) === write(b);
