import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { ranges } from '../../api/ranges';
import { reread } from '../../api/refresh';
import { addParcel, parcelRecord, parcelsKey, roughKey, type Parcel } from '../../api/rough';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { money } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { w } from '../../words/words';

const r = roughWords.parcelForm;

const nothing: Parcel = {
  id: '',
  name: '',
  source: '',
  lot: '',
  bought: '',
  per: 'parcel',
  amount: 0,
  postage: 0,
  currency: 'EUR',
  promised: '',
  came: '',
  note: '',
  version: 0,
};

/** What of a parcel is written: its sums are reckoned from its pieces. */
const formOf = (p: Parcel): Parcel =>
  Object.fromEntries(
    Object.keys(nothing).map((k) => [k, p[k as keyof Parcel]]),
  ) as unknown as Parcel;

/** Rough as it was bought together: from where, for how much, and what was said of it. */
export function ParcelDialog({ parcel, onClose }: { parcel?: Parcel; onClose: () => void }) {
  const [draft, setDraft] = useState(parcel ? formOf(parcel) : nothing);
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const say = useNotice();
  const add = useMutation(addParcel);
  const done = () => {
    void reread(queries, parcelsKey);
    void reread(queries, roughKey);
  };
  const saving = useSaveOver(parcelRecord(draft.id), {
    onSaved: (p: Parcel) => {
      done();
      say({ text: r.saved(p.name) });
      onClose();
    },
    onTheirs: (p: Parcel) => {
      done();
      setDraft(formOf(p));
    },
  });
  const set = (change: Partial<Parcel>) => setDraft({ ...draft, ...change });
  const text = (
    field: 'name' | 'source' | 'lot' | 'promised' | 'came' | 'note',
    width: number | string,
  ) => (
    <TextField
      label={r[field]}
      value={draft[field]}
      onChange={(e) => set({ [field]: e.target.value })}
      sx={{ width }}
    />
  );
  const most = ranges.Parcel.amount.max / 100;
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>{parcel ? r.changing : r.title}</DialogTitle>
      <DialogContent>
        <FormFields value={report}>
          <Box sx={{ display: 'grid', gap: 4, pt: 2 }}>
            <Row>
              {text('name', 260)}
              {text('lot', 140)}
            </Row>
            <Row>
              {text('source', 260)}
              <TextField
                label={r.bought}
                type="date"
                value={draft.bought}
                onChange={(e) => set({ bought: e.target.value })}
                slotProps={{ inputLabel: { shrink: true } }}
                sx={{ width: 180 }}
              />
            </Row>
            <Row>
              <NumberField
                label={r.amount}
                min={0}
                max={most}
                value={draft.amount / 100}
                onChange={(v) => set({ amount: Math.round(100 * v) })}
                width={120}
              />
              <PickField
                label={r.per}
                value={draft.per}
                options={r.pers}
                onChange={(per) => set({ per: per as Parcel['per'] })}
                width={150}
              />
              <NumberField
                label={r.postage}
                min={0}
                max={most}
                value={draft.postage / 100}
                onChange={(v) => set({ postage: Math.round(100 * v) })}
                width={110}
              />
              <TextField
                label={r.currency}
                value={draft.currency}
                onChange={(e) => set({ currency: e.target.value.toUpperCase().slice(0, 3) })}
                sx={{ width: 100 }}
              />
            </Row>
            {text('promised', '100%')}
            {text('came', '100%')}
            {text('note', '100%')}
          </Box>
        </FormFields>
        <Refusal error={add.error ?? saving.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!readable || draft.name.trim() === '' || add.isPending || saving.isPending}
          onClick={() =>
            parcel ? saving.save(draft, draft.version) : add.mutate(draft, { onSuccess: onClose })
          }
        >
          {r.keep}
        </Button>
      </DialogActions>
      <SaveConflict saving={saving} mine={linesOf(draft)} linesOf={linesOf} />
    </Dialog>
  );
}

/** A parcel in lines, for holding two against each other. */
const linesOf = (p: Parcel): string[] => [
  p.name,
  p.source,
  p.lot,
  p.bought,
  `${money(p.amount, p.currency)} · ${r.pers[p.per]} · ${money(p.postage, p.currency)}`,
  p.promised,
  p.came,
  p.note,
];
