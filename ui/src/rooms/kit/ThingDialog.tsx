import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { itemRecord, kitKey, type Item, type ItemPage } from '../../api/kit';
import { ranges } from '../../api/ranges';
import { reread } from '../../api/refresh';
import { settingsQuery } from '../../api/settings';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { kitWords } from '../../words/kit';
import { plain } from '../../words/numbers';
import { w } from '../../words/words';

const k = kitWords.fields;

interface Props {
  item: Item;
  onClose: () => void;
}

/** All that is said of a thing. */
export function ThingDialog({ item, onClose }: Props) {
  const [draft, setDraft] = useState(item);
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const say = useNotice();
  const done = () => {
    void reread(queries, kitKey);
    void reread(queries, settingsQuery.queryKey);
  };
  const saving = useSaveOver(itemRecord(item.id), {
    onSaved: () => {
      done();
      say({ text: kitWords.saved });
      onClose();
    },
    onTheirs: (theirs: ItemPage) => {
      done();
      setDraft(theirs.item);
    },
  });
  const set = (change: Partial<Item>) => setDraft({ ...draft, ...change });
  return (
    <Dialog open onClose={onClose} maxWidth="md">
      <DialogTitle>{item.name}</DialogTitle>
      <DialogContent>
        <FormFields value={report}>
          <Box sx={{ display: 'grid', gap: 4, pt: 2 }}>
            <TextField
              label={kitWords.adding.name}
              value={draft.name}
              onChange={(e) => set({ name: e.target.value })}
            />
            <Particulars draft={draft} set={set} />
            {draft.kind !== 'gear' && <Keeping draft={draft} set={set} />}
            <TextField
              label={kitWords.note}
              value={draft.note}
              multiline
              minRows={2}
              onChange={(e) => set({ note: e.target.value })}
            />
          </Box>
        </FormFields>
        <Refusal error={saving.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!readable || draft.name.trim() === '' || saving.isPending}
          onClick={() => saving.save(draft, draft.version)}
        >
          {kitWords.save}
        </Button>
      </DialogActions>
      <SaveConflict saving={saving} mine={linesOf(draft)} linesOf={(page) => linesOf(page.item)} />
    </Dialog>
  );
}

/** A thing in lines, for holding two against each other. */
const linesOf = (i: Item): string[] => [
  i.name,
  i.note,
  `${k.low}: ${plain(i.low)} ${i.unit}`,
  `${k.shelfMonths}: ${plain(i.shelfMonths)} ${k.months}`,
  `${k.lasts}: ${plain(i.lasts)} ${k.stones}`,
  JSON.stringify(i.lap ?? i.compound ?? i.adhesive ?? i.dop ?? i.gear ?? i.blade ?? ''),
];

interface PartProps {
  draft: Item;
  set: (change: Partial<Item>) => void;
}

/** What is said of a thing of its kind. */
function Particulars({ draft: d, set }: PartProps) {
  if (d.lap) return <LapFields lap={d.lap} onChange={(lap) => set({ lap })} />;
  if (d.compound) {
    const of = d.compound;
    return (
      <Row>
        <PickField
          label={kitWords.family}
          value={of.family}
          options={kitWords.families}
          onChange={(family) => set({ compound: { ...of, family } })}
        />
        <NumberField
          label={kitWords.figures.grain}
          unit="µm"
          {...ranges.Compound.grain}
          value={of.grain}
          onChange={(grain) => set({ compound: { ...of, grain } })}
        />
        <TextField
          label={k.carrier}
          value={of.carrier}
          onChange={(e) => set({ compound: { ...of, carrier: e.target.value } })}
        />
      </Row>
    );
  }
  if (d.adhesive) {
    const of = d.adhesive;
    return (
      <Row>
        <PickField
          label={k.sort}
          value={of.sort}
          options={k.sorts}
          onChange={(sort) => set({ adhesive: { ...of, sort } })}
        />
        <NumberField
          label={k.minutes}
          unit={k.min}
          {...ranges.Adhesive.minutes}
          value={of.minutes}
          onChange={(minutes) => set({ adhesive: { ...of, minutes } })}
        />
      </Row>
    );
  }
  if (d.dop) {
    const of = d.dop;
    return (
      <Row>
        <PickField
          label={k.shape}
          value={of.shape}
          options={k.shapes}
          onChange={(shape) => set({ dop: { ...of, shape } })}
        />
        <NumberField
          label={k.diameter}
          unit="mm"
          {...ranges.Dop.diameter}
          value={of.diameter}
          onChange={(diameter) => set({ dop: { ...of, diameter } })}
        />
      </Row>
    );
  }
  if (d.gear) return <GearFields gear={d.gear} onChange={(gear) => set({ gear })} />;
  if (d.blade) {
    const of = d.blade;
    return (
      <Row>
        <NumberField
          label={k.diameter}
          unit="mm"
          {...ranges.Blade.diameter}
          value={of.diameter}
          onChange={(diameter) => set({ blade: { ...of, diameter } })}
        />
        <NumberField
          label={k.kerf}
          unit="mm"
          {...ranges.Blade.kerf}
          value={of.kerf}
          onChange={(kerf) => set({ blade: { ...of, kerf } })}
        />
      </Row>
    );
  }
  return null;
}

type Lap = NonNullable<Item['lap']>;

function LapFields({ lap, onChange }: { lap: Lap; onChange: (l: Lap) => void }) {
  const set = (change: Partial<Lap>) => onChange({ ...lap, ...change });
  return (
    <>
      <Row>
        <PickField
          label={k.surface}
          value={lap.surface}
          options={k.surfaces}
          onChange={(surface) => set({ surface })}
        />
        <TextField
          label={k.of}
          value={lap.of}
          onChange={(e) => set({ of: e.target.value })}
          sx={{ width: 150 }}
        />
        <NumberField
          label={k.grain}
          unit="µm"
          {...ranges.Lap.grain}
          value={lap.grain || undefined}
          optional="–"
          onChange={(grain) => set({ grain: grain ?? 0 })}
        />
        <FormControlLabel
          control={
            <Checkbox
              checked={lap.polishes}
              onChange={(e) => set({ polishes: e.target.checked })}
            />
          }
          label={k.polishes}
        />
      </Row>
      <Row>
        <NumberField
          label={k.diameter}
          unit="mm"
          {...ranges.Lap.diameter}
          value={lap.diameter}
          onChange={(diameter) => set({ diameter })}
          width={130}
        />
        <NumberField
          label={k.hub}
          unit="mm"
          {...ranges.Lap.hub}
          value={lap.hub}
          onChange={(hub) => set({ hub })}
          width={210}
        />
        <PickField
          label={k.side}
          value={lap.side}
          options={k.sides}
          onChange={(side) => set({ side: side as Lap['side'] })}
          width={160}
        />
        <MaterialField
          label={k.keptFor}
          value={lap.keptFor}
          none={k.keptForAll}
          onChange={(keptFor) => set({ keptFor })}
        />
      </Row>
    </>
  );
}

type Gear = NonNullable<Item['gear']>;

function GearFields({ gear, onChange }: { gear: Gear; onChange: (g: Gear) => void }) {
  const machines = useQuery(settingsQuery).data?.machines ?? [];
  return (
    <Row>
      <NumberField
        label={k.teeth}
        {...ranges.KitGear.teeth}
        value={gear.teeth}
        onChange={(teeth) => onChange({ ...gear, teeth })}
        width={110}
      />
      <Box role="group" aria-label={k.machines}>
        {machines.map((m) => (
          <FormControlLabel
            key={m.id}
            control={
              <Checkbox
                checked={gear.machines.includes(m.id)}
                onChange={(e) =>
                  onChange({
                    ...gear,
                    machines: e.target.checked
                      ? [...gear.machines, m.id]
                      : gear.machines.filter((id) => id !== m.id),
                  })
                }
              />
            }
            label={m.name}
          />
        ))}
      </Box>
    </Row>
  );
}

/** How its stock is counted, how long it keeps, how long one lasts. */
function Keeping({ draft: d, set }: PartProps) {
  return (
    <Row>
      <TextField
        label={k.unit}
        value={d.unit}
        onChange={(e) => set({ unit: e.target.value })}
        sx={{ width: 120 }}
      />
      <NumberField
        label={k.low}
        unit={d.unit}
        {...ranges.Item.low}
        value={d.low}
        onChange={(low) => set({ low })}
        width={180}
      />
      <NumberField
        label={k.shelfMonths}
        unit={k.months}
        {...ranges.Item.shelfMonths}
        value={d.shelfMonths || undefined}
        optional={k.forEver}
        onChange={(months) => set({ shelfMonths: months ?? 0 })}
        width={190}
      />
      <NumberField
        label={k.lasts}
        unit={k.stones}
        {...ranges.Item.lasts}
        value={d.lasts || undefined}
        optional={k.byLog}
        onChange={(lasts) => set({ lasts: lasts ?? 0 })}
        width={190}
      />
    </Row>
  );
}
