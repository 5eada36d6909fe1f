import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { parseNumber, plain } from '../words/numbers';
import { machineWords } from '../words/machine';

interface Props {
  label: string;
  value: number;
  unit?: string;
  min: number;
  max: number;
  onChange: (v: number) => void;
  help?: string;
  width?: number;
}

/** A figure with its unit. What is typed stays as it is; only what can be is handed on. */
export function NumberField({ label, value, unit, min, max, onChange, help, width }: Props) {
  const [typed, setTyped] = useState<string>();
  const read = (text: string) => {
    const v = parseNumber(text);
    return v !== undefined && v >= min && v <= max ? v : undefined;
  };
  const text = typed ?? plain(value);
  const bad = typed !== undefined && read(typed) === undefined;
  return (
    <TextField
      label={label}
      value={text}
      error={bad}
      helperText={bad ? machineWords.number(plain(min), plain(max)) : help}
      onChange={(e) => {
        setTyped(e.target.value);
        const v = read(e.target.value);
        if (v !== undefined) onChange(v);
      }}
      onBlur={() => !bad && setTyped(undefined)}
      sx={{ width: width ?? 170 }}
      slotProps={{
        htmlInput: { inputMode: 'decimal', autoComplete: 'off' },
        input: unit ? { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> } : {},
      }}
    />
  );
}
