import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

type Value = string | number;

export interface Option<T extends Value> {
  value: T;
  name: string;
  disabled?: boolean;
}

interface Props<T extends Value> {
  label: string;
  value: T;
  /** What can be chosen, and how it is called; '' is the value of what is chosen by not choosing. */
  options: readonly Option<T>[] | Readonly<Record<string, string>>;
  onChange: (v: T) => void;
  width?: number | string;
  error?: boolean;
  help?: string;
}

/** One of a few things, chosen from a list. */
export function PickField<T extends Value>(props: Props<T>) {
  const { label, value, onChange, width = 230, error, help } = props;
  const options = listOf(props.options);
  const empty = options.some((o) => o.value === '');
  // Until its options are there a field shows nothing rather than what it does not know.
  const known = options.some((o) => o.value === value);
  return (
    <TextField
      select
      label={label}
      value={known ? value : ''}
      error={error}
      helperText={help}
      onChange={(e) => onChange(e.target.value as T)}
      sx={{ width }}
      slotProps={empty ? { select: { displayEmpty: true }, inputLabel: { shrink: true } } : {}}
    >
      {options.map((o) => (
        <MenuItem key={o.value} value={o.value} disabled={o.disabled}>
          {o.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function listOf<T extends Value>(options: Props<T>['options']): readonly Option<T>[] {
  if (Array.isArray(options)) return options as readonly Option<T>[];
  return Object.entries(options as Record<string, string>).map(([value, name]) => ({
    value: value as T,
    name,
  }));
}

/** Numbers to choose from, called as they are unless `name` says more. */
export const numbers = (
  list: readonly number[],
  name: (n: number) => string = String,
): Option<number>[] => [...new Set(list)].map((n) => ({ value: n, name: name(n) }));

/** Names to choose from, called as they are. */
export const names = (list: readonly string[]): Option<string>[] =>
  [...new Set(list)].map((n) => ({ value: n, name: n }));
