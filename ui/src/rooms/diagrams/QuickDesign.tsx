import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Draft, Usual, Wish } from '../../api/client';
import { ranges } from '../../api/ranges';
import { materialsQuery, usualQuery } from '../../api/settings';
import { quickQuery } from '../../api/solving';
import { NumberField } from '../../parts/fields/NumberField';
import { MaterialField } from '../../parts/fields/MaterialField';
import { numbers, PickField } from '../../parts/fields/PickField';
import { Profile } from '../../parts/stone/Profile';
import { BothSides } from '../../parts/stone/BothSides';
import { libraryWords } from '../../words/library';
import { percent, plain, ratio } from '../../words/numbers';
import { w } from '../../words/words';
import { OutlinePad } from './OutlinePad';
import { ProposalDialog } from './ProposalDialog';
import { useSolved } from '../../parts/stone/useSolved';

const q = libraryWords.quick;
const counts = [4, 8, 12, 16, 20, 24, 32];
/** What an outline that is drawn begins with. */
const drawn = [
  { x: 0, y: 4.5 },
  { x: 3.5, y: 1.5 },
  { x: 2.5, y: -3.5 },
  { x: -2.5, y: -3.5 },
  { x: -3.5, y: 1.5 },
];
/** Outlines that are rounded, with as many girdle facets as are wished for. */
const rounded = ['oval', 'cushion', 'rectangle'];
/** Outlines whose shape does not follow from length and width. */
const own = ['regular', 'corners'];

/** A diagram proposed from a few figures, drawn while they are typed. */
export function QuickDesign({ onClose }: { onClose: () => void }) {
  const usual = useQuery(usualQuery).data;
  return usual && <Wishes usual={usual} onClose={onClose} />;
}

function Wishes({ usual, onClose }: { usual: Usual; onClose: () => void }) {
  const materials = useQuery(materialsQuery).data ?? [];
  const [size, setSize] = useState({ length: usual.width, width: usual.width });
  const [material, setMaterial] = useState(usual.material);
  const [wish, setWish] = useState({
    name: '',
    outline: 'oval' as Wish['outline'],
    girdle: 12,
    gear: usual.gear,
    pavilion: 'fan' as Wish['pavilion'],
    crown: 'bevel' as Wish['crown'],
    table: 0.55,
    sides: 9,
    slant: 60,
    widest: 0.35,
    wholeTeeth: false,
    corners: drawn,
  });
  const set = (change: Partial<typeof wish>) => setWish({ ...wish, ...change });
  const measured = !own.includes(wish.outline);
  const lengthWidth = measured ? size.length / size.width : 1;
  const body: Wish = {
    ...wish,
    lengthWidth,
    refractiveIndex:
      materials.find((m) => m.name === material)?.refractiveIndex.low ?? usual.refractiveIndex,
  };
  const fits = lengthWidth >= 1 && lengthWidth <= 2;
  const design = useQuery({ ...quickQuery(body), enabled: fits });
  const ready = fits && !design.isError;
  return (
    <ProposalDialog
      title={q.title}
      lead={q.lead}
      draft={
        ready && design.data
          ? { ...design.data.draft, width: measured ? plain(size.width) : '' }
          : undefined
      }
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
          <PickField
            label={q.outline}
            value={wish.outline}
            options={q.outlines}
            onChange={(outline) => set({ outline })}
            width={200}
          />
          {measured && (
            <>
              <NumberField
                label={q.length}
                unit="mm"
                {...ranges.Size.mm}
                value={size.length}
                onChange={(length) => setSize({ ...size, length })}
                width={130}
              />
              <NumberField
                label={q.width}
                unit="mm"
                {...ranges.Size.mm}
                value={size.width}
                onChange={(width) => setSize({ ...size, width })}
                width={130}
              />
            </>
          )}
          {rounded.includes(wish.outline) && (
            <PickField
              label={q.girdle}
              value={wish.girdle}
              options={numbers(counts)}
              onChange={(girdle) => set({ girdle })}
              width={130}
            />
          )}
          {wish.outline === 'regular' && (
            <NumberField
              label={q.sides}
              {...ranges.Wish.sides}
              value={wish.sides}
              onChange={(sides) => set({ sides })}
              width={110}
            />
          )}
          {wish.outline === 'parallelogram' && (
            <NumberField
              label={q.slant}
              unit="°"
              {...ranges.Wish.slant}
              value={wish.slant}
              onChange={(slant) => set({ slant })}
              width={110}
            />
          )}
          {wish.outline === 'kite' && (
            <NumberField
              label={q.widest}
              {...ranges.Wish.widest}
              value={wish.widest}
              onChange={(widest) => set({ widest })}
              width={220}
            />
          )}
          {wish.outline === 'corners' && (
            <OutlinePad corners={wish.corners} onChange={(corners) => set({ corners })} />
          )}
          {!rounded.includes(wish.outline) && (
            <FormControlLabel
              control={
                <Checkbox
                  checked={wish.wholeTeeth}
                  onChange={(e) => set({ wholeTeeth: e.target.checked })}
                />
              }
              label={q.wholeTeeth}
            />
          )}
          <MaterialField label={q.material} value={material} onChange={setMaterial} />
          <PickField
            label={q.gear}
            value={wish.gear}
            options={numbers(usual.gears)}
            onChange={(gear) => set({ gear })}
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
            {...ranges.Wish.table}
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
  return (
    <>
      <BothSides mesh={stone.mesh} wheel={stone.wheel} height={260} />
      <Box sx={{ height: 170 }}>
        <Profile
          mesh={stone.mesh}
          levels={stone.levels}
          section={stone.towardsTwelve}
          length={(units) => percent(units / stone.measures.width)}
        />
      </Box>
      <Typography sx={{ textAlign: 'center' }}>
        {w.diagrams.facets(stone.measures.facets)} · {w.diagrams.tiers(stone.tiers.length)} ·{' '}
        {q.ratio(ratio(stone.measures.lengthWidth))}
      </Typography>
    </>
  );
}
