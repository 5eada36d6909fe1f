import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Assessment, Choices, Machine } from '../../api/client';
import { materialsQuery } from '../../api/queries';
import { PickField } from '../../parts/PickField';
import { angle, parseNumber } from '../../words/numbers';
import { w } from '../../words/words';

interface Props {
  choices: Choices;
  /** Girdle tiers that calipers can measure. */
  calipers: string[];
  machines: Machine[];
  /** The machine's gears, the one that fits best first. */
  ranking: Assessment['ranking'];
  onChange: (change: Partial<Choices>) => void;
}

/** What is decided when a stone is planned. */
export function PlanChoices({ choices, calipers, machines, ranking, onChange }: Props) {
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
      <SizeChoice size={choices.size} calipers={calipers} onChange={(size) => onChange({ size })} />
      {machines.length > 1 && (
        <PickField
          label={w.stones.machine}
          value={choices.machine}
          options={Object.fromEntries(machines.map((m) => [m.id, m.name]))}
          onChange={(machine) => onChange({ machine })}
          width={190}
        />
      )}
      <GearChoice ranking={ranking} value={choices.gear} onChange={(gear) => onChange({ gear })} />
      <PickField
        label={w.stones.firstSide}
        value={choices.firstSide}
        options={{ pavilion: w.tiers.parts.pavilion!, crown: w.tiers.parts.crown! }}
        onChange={(firstSide) => onChange({ firstSide })}
        width={140}
      />
    </Box>
  );
}

interface GearProps {
  ranking: Assessment['ranking'];
  value: number;
  onChange: (g: number) => void;
}

function GearChoice({ ranking, value, onChange }: GearProps) {
  const owned = ranking.some((g) => g.teeth === value);
  return (
    <TextField
      select
      label={w.stones.gear}
      value={value}
      onChange={(e) => onChange(Number(e.target.value))}
      sx={{ width: 210 }}
    >
      {ranking.map((g) => (
        <MenuItem key={g.teeth} value={g.teeth}>
          {w.stones.gearFit(g.teeth, g.largestCheat > 0 ? angle(g.largestCheat) : '')}
        </MenuItem>
      ))}
      {!owned && (
        <MenuItem value={value}>
          {value} ({w.stones.notOwned})
        </MenuItem>
      )}
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
