import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Material } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { judgingWords } from '../../words/judging';
import type { AngleWish } from './angleWish';

const a = judgingWords.angles;

interface Props {
  wish: AngleWish;
  set: (change: Partial<AngleWish>) => void;
  materials: Material[];
  /** The machine's own step in degrees. */
  step: number;
  /** What the shallowest tier was given. */
  margin: number | undefined;
}

/** What the angles are to suit: a material, a margin, a machine. */
export function AngleChoices({ wish, set, materials, step, margin }: Props) {
  const steps = [...new Set([step, 0.05, 0.1, 0.25, 0.5, 1])].sort((x, y) => x - y);
  const choose = (name: string) => {
    const m = materials.find((o) => o.name === name);
    set(m ? { material: name, index: m.refractiveIndex.low } : { material: '' });
  };
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mb: 3 }}>
      <TextField
        select
        label={a.material}
        value={wish.material}
        onChange={(e) => choose(e.target.value)}
        sx={{ width: 190 }}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="">{a.own}</MenuItem>
        {materials.map((m) => (
          <MenuItem key={m.name} value={m.name}>
            {m.name}
          </MenuItem>
        ))}
      </TextField>
      <NumberField
        key={wish.material}
        label={a.index}
        min={1.01}
        max={4}
        value={wish.index}
        onChange={(index) => set({ index })}
        width={130}
      />
      <PickField
        label={a.margin}
        value={wish.margin === null ? 'own' : 'chosen'}
        options={{ own: a.ownMargin, chosen: a.chosenMargin }}
        onChange={(v) => set({ margin: v === 'own' ? null : rounded(margin || 2) })}
        width={190}
      />
      {wish.margin !== null && (
        <NumberField
          label={a.margin}
          unit="°"
          min={-20}
          max={40}
          value={wish.margin}
          onChange={(m) => set({ margin: m })}
          width={110}
        />
      )}
      <PickField
        label={a.crown}
        value={wish.crown}
        options={a.crowns}
        onChange={(crown) => set({ crown })}
        width={250}
      />
      {wish.crown === 'own' && (
        <NumberField
          label={a.factor}
          min={0.1}
          max={10}
          value={wish.factor}
          onChange={(factor) => set({ factor })}
          width={130}
        />
      )}
      <PickField
        label={a.round}
        value={String(wish.step)}
        options={Object.fromEntries([
          ['0', a.exact],
          ...steps.map((s) => [String(s), a.steps(s, s === step)]),
        ])}
        onChange={(s) => set({ step: Number(s) })}
        width={200}
      />
      {wish.step > 0 && (
        <PickField
          label={a.search}
          value={wish.search}
          options={a.searches}
          onChange={(search) => set({ search })}
          width={210}
        />
      )}
      <NumberField
        label={a.width}
        unit="mm"
        min={0.1}
        max={500}
        value={wish.width}
        onChange={(width) => set({ width })}
        width={130}
      />
    </Box>
  );
}

const rounded = (v: number) => Math.round(v * 10) / 10;
