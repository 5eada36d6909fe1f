import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Choices } from '../../api/client';
import { materialsQuery } from '../../api/queries';
import { parseNumber } from '../../words/numbers';
import { w } from '../../words/words';

interface Props {
  choices: Choices;
  /** Girdle tiers that calipers can measure. */
  calipers: string[];
  /** Gears at hand. */
  gears: number[];
  onChange: (change: Partial<Choices>) => void;
}

/** What is decided when a stone is planned. */
export function PlanChoices({ choices, calipers, gears, onChange }: Props) {
  const materials = useQuery(materialsQuery);
  return (
    <Box
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mb: 3 }}
      role="group"
      aria-label={w.stones.planTitle}
    >
      <TextField
        select
        label={w.stones.material}
        value={materials.data ? choices.material : ''}
        onChange={(e) => onChange({ material: e.target.value })}
        sx={{ width: 210 }}
      >
        {(materials.data ?? []).map((m) => (
          <MenuItem key={m.name} value={m.name}>
            {m.name}
          </MenuItem>
        ))}
      </TextField>
      <GearChoice owned={gears} value={choices.gear} onChange={(gear) => onChange({ gear })} />
      <SizeChoice size={choices.size} calipers={calipers} onChange={(size) => onChange({ size })} />
      <TextField
        select
        label={w.stones.firstSide}
        value={choices.firstSide}
        onChange={(e) => onChange({ firstSide: e.target.value as Choices['firstSide'] })}
        sx={{ width: 140 }}
      >
        {['pavilion', 'crown'].map((s) => (
          <MenuItem key={s} value={s}>
            {w.tiers.parts[s]}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}

interface GearProps {
  owned: number[];
  value: number;
  onChange: (g: number) => void;
}

function GearChoice({ owned, value, onChange }: GearProps) {
  const gears = [...new Set([...owned, value])].sort((a, b) => a - b);
  return (
    <TextField
      select
      label={w.stones.gear}
      value={value}
      onChange={(e) => onChange(Number(e.target.value))}
      sx={{ width: 170 }}
    >
      {gears.map((g) => (
        <MenuItem key={g} value={g}>
          {owned.includes(g) ? g : `${g} (${w.stones.notOwned})`}
        </MenuItem>
      ))}
    </TextField>
  );
}

type Size = Choices['size'];

interface SizeProps {
  size: Size;
  calipers: string[];
  onChange: (s: Size) => void;
}

const smallest = 0.1;
const largest = 500;

function SizeChoice({ size, calipers, onChange }: SizeProps) {
  const [typed, setTyped] = useState(size.typed);
  const read = (text: string) => {
    const v = parseNumber(text);
    return v !== undefined && v >= smallest && v <= largest ? v : undefined;
  };
  const bad = read(typed) === undefined;
  return (
    <>
      <TextField
        label={`${w.stones.size} (${w.units.mm})`}
        value={typed}
        error={bad}
        helperText={bad && w.stones.sizeBad(smallest, largest)}
        onChange={(e) => {
          setTyped(e.target.value);
          const v = read(e.target.value);
          if (v !== undefined) onChange({ ...size, mm: v, typed: e.target.value });
        }}
        sx={{ width: 110 }}
        slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      />
      <TextField
        select
        label={w.stones.basis}
        value={size.basis}
        onChange={(e) => {
          const basis = e.target.value as Size['basis'];
          onChange({ ...size, basis, tier: basis === 'flats' ? (calipers[0] ?? '') : '' });
        }}
        sx={{ width: 180 }}
      >
        {Object.entries(w.stones.bases).map(([v, name]) => (
          <MenuItem key={v} value={v} disabled={v === 'flats' && calipers.length === 0}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      {size.basis === 'flats' && (
        <TextField
          select
          label={w.stones.girdleTier}
          value={size.tier}
          onChange={(e) => onChange({ ...size, tier: e.target.value })}
          sx={{ width: 110 }}
        >
          {[...new Set([...calipers, size.tier])].map((t) => (
            <MenuItem key={t} value={t}>
              {t}
            </MenuItem>
          ))}
        </TextField>
      )}
    </>
  );
}
