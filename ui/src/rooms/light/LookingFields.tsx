import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { materialsQuery } from '../../api/queries';
import type { Looking } from '../../parts/light/looking';
import { TintField } from '../../parts/light/TintField';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { lightWords } from '../../words/light';
import { plain } from '../../words/numbers';

interface Props {
  looking: Looking;
  set: (change: Partial<Looking>) => void;
  children?: ReactNode;
}

/** What the stone is made of and what light it is looked at in. */
export function LookingFields({ looking, set, children }: Props) {
  const l = lightWords;
  const materials = useQuery(materialsQuery).data ?? [];
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, my: 3 }}>
      <MaterialField
        value={looking.material}
        own={l.asDrawn(plain(looking.refractiveIndex))}
        names={materials.map((m) => m.name)}
        onChange={(material) => set({ material })}
      />
      <TintField value={looking.tint} onChange={(tint) => set({ tint })} />
      <NumberField
        label={l.width}
        unit="mm"
        min={0.1}
        max={500}
        value={looking.width}
        onChange={(width) => set({ width })}
        width={120}
      />
      <PickField
        label={l.model}
        value={looking.model}
        options={l.models}
        onChange={(model) => set({ model })}
        width={200}
      />
      <NumberField
        label={l.head}
        unit="°"
        min={0}
        max={90}
        value={looking.headAngle}
        onChange={(headAngle) => set({ headAngle })}
        width={110}
      />
      <PickField
        label={l.girdleIs}
        value={looking.frostedGirdle ? 'frosted' : 'polished'}
        options={l.girdles}
        onChange={(v) => set({ frostedGirdle: v === 'frosted' })}
        width={130}
      />
      {children}
    </Box>
  );
}

/** A material of the table, or the index that the diagram was drawn for. */
export function MaterialField({
  value,
  own,
  names,
  onChange,
}: {
  value: string;
  own: string;
  names: string[];
  onChange: (name: string) => void;
}) {
  return (
    <TextField
      select
      label={lightWords.material}
      value={value === '' || names.includes(value) ? value : ''}
      onChange={(e) => onChange(e.target.value)}
      sx={{ width: 200 }}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      <MenuItem value="">{own}</MenuItem>
      {names.map((name) => (
        <MenuItem key={name} value={name}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
