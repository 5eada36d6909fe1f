import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

interface Props<T extends string> {
  label: string;
  value: T;
  /** What can be chosen, and how it is called. */
  options: Record<string, string>;
  onChange: (v: T) => void;
  width?: number;
}

/** One of a few things, chosen from a list. */
export function PickField<T extends string>({ label, value, options, onChange, width }: Props<T>) {
  return (
    <TextField
      select
      label={label}
      value={value}
      onChange={(e) => onChange(e.target.value as T)}
      sx={{ width: width ?? 230 }}
    >
      {Object.entries(options).map(([v, name]) => (
        <MenuItem key={v} value={v}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
