import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { answer, client, type Assessment, type Choices, type Settings } from '../../api/client';
import { materialsQuery } from '../../api/queries';
import { Care } from '../../parts/Page';
import { PassList } from '../../parts/PassList';
import { Refusal } from '../../parts/Refusal';
import { angle, mm, parseNumber } from '../../words/numbers';
import { w } from '../../words/words';
import { StoneDesk } from '../diagrams/StoneDesk';
import { TierTable } from '../diagrams/TierTable';
import { PlanFigures } from './PlanFigures';

interface Props {
  diagramId: string;
  choices: Choices;
  onChange: (c: Choices) => void;
  name?: string;
  onName?: (n: string) => void;
  settings: Settings;
}

/** A plan being made: the choices, and beside them what they come to. */
export function PlanDesk({ diagramId, choices, onChange, name, onName, settings }: Props) {
  const [selected, setSelected] = useState<string | null>(null);
  const materials = useQuery(materialsQuery);
  const assessed = useAssessment(diagramId, choices);
  const a = assessed.data;
  const set = (change: Partial<Choices>) => onChange({ ...choices, ...change });
  const material = materials.data?.find((m) => m.name === choices.material);
  return (
    <StoneDesk
      stone={a?.stone ?? undefined}
      problems={[]}
      warnings={a?.warnings ?? []}
      selected={selected}
      onSelect={setSelected}
      length={a && ((units) => mm(units * a.mmPerUnit))}
    >
      <Box
        sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mb: 3 }}
        role="group"
        aria-label={w.stones.planTitle}
      >
        {onName && (
          <TextField
            label={w.stones.name}
            placeholder={w.stones.namePlaceholder}
            value={name}
            onChange={(e) => onName(e.target.value)}
            sx={{ width: '100%' }}
          />
        )}
        <TextField
          select
          label={w.stones.material}
          value={materials.data ? choices.material : ''}
          onChange={(e) => set({ material: e.target.value })}
          sx={{ width: 210 }}
        >
          {(materials.data ?? []).map((m) => (
            <MenuItem key={m.name} value={m.name}>
              {m.name}
            </MenuItem>
          ))}
        </TextField>
        <GearChoice settings={settings} value={choices.gear} onChange={(gear) => set({ gear })} />
        <SizeChoice choices={choices} assessment={a} onChange={(size) => set({ size })} />
        <TextField
          select
          label={w.stones.firstSide}
          value={choices.firstSide}
          onChange={(e) => set({ firstSide: e.target.value as Choices['firstSide'] })}
          sx={{ width: 140 }}
        >
          {['pavilion', 'crown'].map((s) => (
            <MenuItem key={s} value={s}>
              {w.tiers.parts[s]}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Refusal error={assessed.error} />
      {a && <PlanCares assessment={a} choices={choices} settings={settings} />}
      {a && <PlanFigures assessment={a} />}
      {a?.stone && (
        <Box sx={{ my: 4, overflow: 'auto' }}>
          <TierTable stone={a.stone} selected={selected} onSelect={setSelected} />
        </Box>
      )}
      <PassList
        head={w.stones.passes}
        passes={choices.passes}
        onChange={(passes) => set({ passes })}
      />
      {material && (
        <Box component="section" aria-label={w.stones.cautions} sx={{ my: 4 }}>
          {material.cautions.map((c) => (
            <Care key={c}>{c}</Care>
          ))}
        </Box>
      )}
    </StoneDesk>
  );
}

function useAssessment(diagramId: string, choices: Choices) {
  const asked = useDeferredValue(choices);
  return useQuery({
    queryKey: ['assess', diagramId, asked],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/assess', { body: { diagramId, choices: asked }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

function GearChoice({
  settings,
  value,
  onChange,
}: {
  settings: Settings;
  value: number;
  onChange: (g: number) => void;
}) {
  const gears = [...new Set([...settings.gears, value])].sort((a, b) => a - b);
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
          {settings.gears.includes(g) ? g : `${g} (${w.stones.notOwned})`}
        </MenuItem>
      ))}
    </TextField>
  );
}

function SizeChoice({
  choices,
  assessment,
  onChange,
}: {
  choices: Choices;
  assessment: Assessment | undefined;
  onChange: (s: Choices['size']) => void;
}) {
  const { size } = choices;
  const [typed, setTyped] = useState(size.typed);
  const value = parseNumber(typed);
  const bad = value === undefined || value < 0.1 || value > 500;
  const tiers = assessment?.calipers.map((c) => c.tier) ?? (size.tier ? [size.tier] : []);
  return (
    <>
      <TextField
        label={`${w.stones.size} (${w.units.mm})`}
        value={typed}
        error={bad}
        onChange={(e) => {
          setTyped(e.target.value);
          const v = parseNumber(e.target.value);
          if (v !== undefined && v >= 0.1 && v <= 500)
            onChange({ ...size, mm: v, typed: e.target.value });
        }}
        sx={{ width: 110 }}
        slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      />
      <TextField
        select
        label={w.stones.basis}
        value={size.basis}
        onChange={(e) => {
          const basis = e.target.value as Choices['size']['basis'];
          onChange({ ...size, basis, tier: basis === 'flats' ? (tiers[0] ?? '') : '' });
        }}
        sx={{ width: 180 }}
      >
        {Object.entries(w.stones.bases).map(([v, name]) => (
          <MenuItem key={v} value={v} disabled={v === 'flats' && tiers.length === 0}>
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
          {tiers.map((t) => (
            <MenuItem key={t} value={t}>
              {t}
            </MenuItem>
          ))}
        </TextField>
      )}
    </>
  );
}

/** What of the plan needs care on this machine. */
function PlanCares({
  assessment: a,
  choices,
  settings,
}: {
  assessment: Assessment;
  choices: Choices;
  settings: Settings;
}) {
  const cheat = angle(a.largestCheat);
  return (
    <>
      {a.largestCheat > 0 && !settings.cheater && (
        <Care grave>{w.stones.cheatNoCheater(cheat)}</Care>
      )}
      {a.largestCheat === 0 && <Typography color="text.secondary">{w.stones.carries}</Typography>}
      {a.largestCheat > 0 && settings.cheater && <Care>{w.stones.cheat(cheat)}</Care>}
      {a.turn !== 0 && <Care>{w.stones.turn(angle(a.turn))}</Care>}
      {a.unsettable.map((u) => (
        <Care key={u.tier}>
          {w.stones.notSettable(u.tier, angle(u.angle), angle(u.below), angle(u.above))}
        </Care>
      ))}
      {a.noTable && choices.firstSide === 'crown' && <Care>{w.stones.noTable}</Care>}
    </>
  );
}
