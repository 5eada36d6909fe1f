import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { nothing, shelfQuery, tellItem, type Happened, type ItemPage } from '../../api/kit';
import { ranges } from '../../api/ranges';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { kitWords as k } from '../../words/kit';
import { w } from '../../words/words';

/** What somebody says of a thing. */
export type Telling = 'clean' | 'charge' | 'touch' | 'renew' | 'count';

interface Props {
  page: ItemPage;
  telling: Telling;
  onClose: () => void;
}

type Said = Omit<Happened, 'kind'>;

/** The day today as it is kept. */
const today = () => new Date().toLocaleDateString('sv');

const kinds: Record<Telling, Happened['kind']> = {
  clean: 'cleaned',
  charge: 'charged',
  touch: 'touched',
  renew: 'renewed',
  count: 'counted',
};

function begin(page: ItemPage, telling: Telling): Said {
  switch (telling) {
    case 'clean': {
      // The mildest way that takes all of it, unless nothing but another lap would.
      const fits = page.allWays.map((o) => o.way);
      const best = page.ways.find((o) => fits.includes(o.way));
      return { ...nothing, way: best?.way ?? fits[0] ?? '' };
    }
    case 'renew':
      return { ...nothing, on: today() };
    case 'count':
      return { ...nothing, have: page.have ?? 0 };
  }
  return { ...nothing, family: 'diamond' };
}

/** Says what happened to a thing. */
export function TellDialog({ page, telling, onClose }: Props) {
  const [said, setSaid] = useState(() => begin(page, telling));
  const { readable, report } = useReadable();
  const say = useNotice();
  const tell = useMutation(tellItem);
  const set = (change: Partial<Said>) => setSaid({ ...said, ...change });
  const item = page.item;
  const head =
    telling === 'renew'
      ? (k.do.renew[item.kind as keyof typeof k.do.renew] ?? k.do.renew.other)
      : k.do[telling];
  const submit = (e: FormEvent) => {
    e.preventDefault();
    tell.mutate(
      { ...said, id: item.id, kind: kinds[telling] },
      {
        onSuccess: () => {
          say({ text: k.toldOf });
          onClose();
        },
      },
    );
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <form onSubmit={submit}>
        <DialogTitle>
          {item.name}: {head}
        </DialogTitle>
        <DialogContent>
          <FormFields value={report}>
            <Row>
              {telling === 'clean' && <Clean page={page} said={said} set={set} />}
              {telling === 'charge' && <Charge said={said} set={set} />}
              {telling === 'touch' && <Touch said={said} set={set} />}
              {telling === 'renew' && (
                <TextField
                  type="date"
                  label={k.onDay}
                  value={said.on}
                  onChange={(e) => set({ on: e.target.value })}
                  slotProps={{ inputLabel: { shrink: true } }}
                />
              )}
              {telling === 'count' && (
                <NumberField
                  label={k.have}
                  unit={item.unit}
                  {...ranges.HappenedRequest.have}
                  value={said.have}
                  onChange={(have) => set({ have })}
                />
              )}
            </Row>
          </FormFields>
          <Refusal error={tell.error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{w.common.cancel}</Button>
          <Button type="submit" variant="contained" disabled={!readable || tell.isPending}>
            {w.common.save}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

interface Part {
  said: Said;
  set: (change: Partial<Said>) => void;
}

function Clean({ page, said, set }: Part & { page: ItemPage }) {
  const text = page.allWays.find((o) => o.way === said.way)?.text;
  return (
    <>
      <PickField
        label={k.way}
        value={said.way}
        options={page.allWays.map((o) => ({ value: o.way, name: k.ways[o.way]! }))}
        onChange={(way) => set({ way })}
      />
      {said.way === 'skim' && (
        <NumberField
          label={k.flatness}
          unit="µm"
          {...ranges.HappenedRequest.flatness}
          value={said.flatness ?? undefined}
          optional={k.notMeasured}
          onChange={(flatness) => set({ flatness: flatness ?? null })}
        />
      )}
      <Typography color="text.secondary">{text}</Typography>
    </>
  );
}

function Charge({ said, set }: Part) {
  const compounds = (useQuery(shelfQuery).data ?? []).filter(
    (s) => s.item.kind === 'compound' && !s.gone,
  );
  return (
    <>
      <PickField
        label={k.with}
        value={said.item}
        options={[
          { value: '', name: k.another },
          ...compounds.map((s) => ({ value: s.item.id, name: s.item.name })),
        ]}
        onChange={(item) => set({ item })}
      />
      {said.item === '' && (
        <>
          <TextField
            label={k.compoundName}
            value={said.name}
            onChange={(e) => set({ name: e.target.value })}
          />
          <Grit said={said} set={set} />
        </>
      )}
      <Typography color="text.secondary">{k.caution.powder}</Typography>
    </>
  );
}

/** A kind of grit, and how coarse. */
function Grit({ said, set }: Part) {
  return (
    <>
      <PickField
        label={k.family}
        value={said.family}
        options={k.families}
        onChange={(family) => set({ family: family as Said['family'] })}
        width={160}
      />
      <NumberField
        label={k.figures.grain}
        unit="µm"
        {...ranges.HappenedRequest.grain}
        value={said.grain}
        onChange={(grain) => set({ grain })}
        width={130}
      />
    </>
  );
}

function Touch({ said, set }: Part) {
  const stone = said.family === '';
  return (
    <>
      <PickField
        label={k.touched.what}
        value={stone ? 'stone' : 'grit'}
        options={{ grit: k.touched.grit, stone: k.touched.stone }}
        onChange={(what) =>
          set(what === 'stone' ? { family: '', grain: 0 } : { family: 'diamond', material: '' })
        }
        width={130}
      />
      {stone ? (
        <MaterialField
          label={k.material}
          value={said.material}
          onChange={(material, known) => set({ material, hardness: known?.hardness.low ?? 10 })}
        />
      ) : (
        <Grit said={said} set={set} />
      )}
    </>
  );
}
