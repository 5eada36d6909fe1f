import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { fieldWords } from '../../words/fields';
import { parseNumber, plain } from '../../words/numbers';
import { useUnreadable } from './unreadable';

interface Common {
  label: string;
  unit?: string;
  min: number;
  max: number;
  /** Only whole numbers are read. */
  whole?: boolean;
  help?: string;
  width?: number | string;
  /** The value as it was once typed, to begin with. */
  typed?: string;
}

interface Required {
  value: number;
  /** `text` is the figure as it was typed. */
  onChange: (v: number, text: string) => void;
  optional?: undefined;
}

interface Optional {
  /** Undefined where the field is empty. */
  value: number | undefined;
  onChange: (v: number | undefined, text: string) => void;
  /** What stands in the empty field. */
  optional: string;
}

/**
 * A figure with its unit. What is typed stays as it was typed, for as long as it says what the
 * value is; what cannot be read is marked, and the value stays. A value that changes from outside
 * takes the place of what was typed.
 */
export function NumberField(props: Common & (Required | Optional)) {
  const { label, value, unit, min, max, whole = false, help, width = 170, optional } = props;
  const [typed, setTyped] = useState(
    props.typed === undefined ? undefined : { text: props.typed, over: value },
  );
  const read = (text: string): number | undefined | 'bad' => {
    if (optional !== undefined && text.trim() === '') return undefined;
    const v = parseNumber(text);
    const good = v !== undefined && v >= min && v <= max && (!whole || Number.isInteger(v));
    return good ? v : 'bad';
  };
  const reading = typed && read(typed.text);
  const current = typed && (reading === 'bad' ? typed.over === value : reading === value);
  const bad = current === true && reading === 'bad';
  useUnreadable(bad);
  return (
    <TextField
      label={label}
      value={current ? typed.text : value === undefined ? '' : plain(value)}
      error={bad}
      placeholder={optional}
      helperText={bad ? fieldWords.range(plain(min), plain(max), whole) : help}
      onChange={(e) => {
        const text = e.target.value;
        setTyped({ text, over: value });
        const v = read(text);
        if (v === 'bad') return;
        if (props.optional !== undefined) props.onChange(v, text);
        else if (v !== undefined) props.onChange(v, text);
      }}
      onBlur={() => !bad && setTyped(undefined)}
      sx={{ width }}
      slotProps={{
        ...(optional && { inputLabel: { shrink: true } }),
        htmlInput: { inputMode: whole ? 'numeric' : 'decimal', autoComplete: 'off' },
        input: unit ? { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> } : {},
      }}
    />
  );
}
