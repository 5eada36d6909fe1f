import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { tintsQuery } from '../../api/queries';
import { lightWords } from '../../words/light';

/** Chooses a body colour, '' for the one that is usual for the material. */
export function TintField({ value, onChange }: { value: string; onChange: (v: string) => void }) {
  const tints = useQuery(tintsQuery).data ?? [];
  return (
    <TextField
      select
      label={lightWords.tint}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      sx={{ width: 160 }}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      <MenuItem value="">{lightWords.usual}</MenuItem>
      {tints.map((t) => (
        <MenuItem key={t.key} value={t.key}>
          {lightWords.tints[t.key] ?? t.key}
        </MenuItem>
      ))}
    </TextField>
  );
}
