import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, type Draft, type Wish } from '../../api/client';
import { materialsQuery, settingsQuery } from '../../api/queries';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { Profile } from '../../parts/stone/Profile';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { libraryWords } from '../../words/library';
import { percent } from '../../words/numbers';
import { w } from '../../words/words';
import { defaultMachine } from '../machine/useSaveSettings';
import { ProposalDialog } from './ProposalDialog';
import { useSolved } from './useSolved';

const q = libraryWords.quick;
const counts = [4, 8, 12, 16, 20, 24, 32];

/** A diagram proposed from a few figures, drawn while they are typed. */
export function QuickDesign({ onClose }: { onClose: () => void }) {
  const materials = useQuery(materialsQuery).data ?? [];
  const settings = useQuery(settingsQuery).data;
  const gears = settings ? defaultMachine(settings).gears : [96];
  const [size, setSize] = useState({ length: 8, width: 8 });
  const [material, setMaterial] = useState('Quartz');
  const [wish, setWish] = useState({
    name: '',
    outline: 'oval' as Wish['outline'],
    girdle: 12,
    gear: 0,
    pavilion: 'fan' as Wish['pavilion'],
    crown: 'bevel' as Wish['crown'],
    table: 0.55,
  });
  const set = (change: Partial<typeof wish>) => setWish({ ...wish, ...change });
  const ratio = size.length / size.width;
  const body: Wish = {
    ...wish,
    gear: wish.gear || (gears.at(-1) ?? 96),
    lengthWidth: ratio,
    refractiveIndex: materials.find((m) => m.name === material)?.refractiveIndex.low ?? 1.544,
  };
  const fits = ratio >= 1 && ratio <= 2;
  const design = useQuery({
    queryKey: ['quick', body],
    queryFn: ({ signal }) => answer(client.POST('/api/diagrams/quick', { body, signal })),
    enabled: fits,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });
  const ready = fits && !design.isError;
  return (
    <ProposalDialog
      title={q.title}
      lead={q.lead}
      draft={ready ? design.data?.draft : undefined}
      error={design.error}
      keep={q.keep}
      origin={q.origin}
      onClose={onClose}
      drawn={design.data && <Drawn draft={design.data.draft} />}
      fields={
        <>
          <TextField
            label={q.name}
            value={wish.name}
            onChange={(e) => set({ name: e.target.value })}
            fullWidth
            autoFocus
          />
          <NumberField
            label={q.length}
            unit="mm"
            min={0.5}
            max={500}
            value={size.length}
            onChange={(length) => setSize({ ...size, length })}
            width={130}
          />
          <NumberField
            label={q.width}
            unit="mm"
            min={0.5}
            max={500}
            value={size.width}
            onChange={(width) => setSize({ ...size, width })}
            width={130}
          />
          <PickField
            label={q.outline}
            value={wish.outline}
            options={q.outlines}
            onChange={(outline) => set({ outline })}
            width={200}
          />
          <PickField
            label={q.girdle}
            value={String(wish.girdle)}
            options={
              Object.fromEntries(counts.map((n) => [n, String(n)])) as Record<string, string>
            }
            onChange={(n) => set({ girdle: Number(n) })}
            width={130}
          />
          <TextField
            select
            label={q.material}
            value={materials.length > 0 ? material : ''}
            onChange={(e) => setMaterial(e.target.value)}
            sx={{ width: 200 }}
          >
            {materials.map((m) => (
              <MenuItem key={m.name} value={m.name}>
                {m.name}
              </MenuItem>
            ))}
          </TextField>
          <PickField
            label={q.gear}
            value={String(body.gear)}
            options={Object.fromEntries(gears.map((g) => [g, String(g)])) as Record<string, string>}
            onChange={(g) => set({ gear: Number(g) })}
            width={110}
          />
          <PickField
            label={q.pavilion}
            value={wish.pavilion}
            options={q.pavilions}
            onChange={(pavilion) => set({ pavilion })}
          />
          <PickField
            label={q.crown}
            value={wish.crown}
            options={q.crowns}
            onChange={(crown) => set({ crown })}
          />
          <NumberField
            label={q.table}
            min={0.4}
            max={0.75}
            value={wish.table}
            onChange={(table) => set({ table })}
            width={220}
          />
          {!fits && <Typography color="error">{q.lengthBelow}</Typography>}
        </>
      }
    />
  );
}

function Drawn({ draft }: { draft: Draft }) {
  const { shown: stone } = useSolved(draft);
  if (!stone) return null;
  const step = stone.mesh.steps.length - 1;
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', height: 260 }}>
        {(['crown', 'pavilion'] as const).map((up) => (
          <StoneInWheel
            key={up}
            mesh={stone.mesh}
            step={step}
            up={up}
            wheel={stone.wheel}
            lit={[]}
            label={w.drawing.inWheel(up)}
          />
        ))}
      </Box>
      <Box sx={{ height: 170 }}>
        <Profile
          mesh={stone.mesh}
          step={step}
          levels={stone.levels}
          section={stone.towardsTwelve}
          toTheRight={12}
          length={(units) => percent(units / stone.measures.width)}
        />
      </Box>
      <Typography sx={{ textAlign: 'center' }}>
        {w.diagrams.facets(stone.measures.facets)} · {w.diagrams.tiers(stone.tiers.length)}
      </Typography>
    </>
  );
}
