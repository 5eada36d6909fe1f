import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { measurable, ReadingOffer, taking, type Measurable } from '../instruments/ReadingOffer';
import { fieldWords } from '../../words/fields';
import { parseNumber, plain } from '../../words/numbers';
import { unreadable, useTyped } from './useTyped';

interface Common {
  label: string;
  unit?: string;
  min: number;
  max: number;
  /** Only whole numbers are read. */
  whole?: boolean;
  help?: string;
  width?: number | string;
  autoFocus?: boolean;
  /** The value as it was once typed, to begin with. */
  typed?: string;
  /** What instruments may fill it with; by its unit where this is left out. */
  measures?: Measurable;
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

/** A figure with its unit, typed by the rules of `useTyped`. */
export function NumberField(props: Common & (Required | Optional)) {
  const {
    label,
    value,
    unit,
    min,
    max,
    whole = false,
    help,
    width = 170,
    optional,
    autoFocus,
  } = props;
  const { text, bad, type, leave } = useTyped<number | undefined>(value, {
    read: (text) => {
      if (optional !== undefined && text.trim() === '') return undefined;
      const v = parseNumber(text);
      const good = v !== undefined && v >= min && v <= max && (!whole || Number.isInteger(v));
      return good ? v : unreadable;
    },
    write: (v) => (v === undefined ? '' : plain(v)),
    same: (a, b) => a === b,
    typed: props.typed,
  });
  const [focused, setFocused] = useState(false);
  const measures = props.measures ?? measurable(unit);
  const enter = (typed: string) => {
    const v = type(typed);
    if (v === unreadable) return;
    if (props.optional !== undefined) props.onChange(v, typed);
    else if (v !== undefined) props.onChange(v, typed);
  };
  const take = (figure: string) => enter(whole ? String(Math.round(parseNumber(figure)!)) : figure);
  return (
    <TextField
      label={label}
      value={text}
      autoFocus={autoFocus}
      error={bad}
      placeholder={optional}
      helperText={bad ? fieldWords.range(plain(min), plain(max), whole) : help}
      onChange={(e) => enter(e.target.value)}
      onFocus={() => setFocused(true)}
      onBlur={() => {
        setFocused(false);
        leave();
      }}
      onKeyDown={taking(measures, take)}
      sx={{ width }}
      slotProps={{
        ...(optional && { inputLabel: { shrink: true } }),
        htmlInput: { inputMode: whole ? 'numeric' : 'decimal', autoComplete: 'off' },
        input:
          unit || measures
            ? {
                endAdornment: (
                  <InputAdornment position="end">
                    {unit}
                    {focused && measures && <ReadingOffer of={measures} onTake={take} />}
                  </InputAdornment>
                ),
              }
            : {},
      }}
    />
  );
}
