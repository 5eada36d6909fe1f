import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery, useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { ranges } from '../../api/ranges';
import { addPhotos, stonesQuery } from '../../api/stones';
import { addPolishTrial, type PolishTrial, type PolishWay } from '../../api/trials';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { KitField } from '../../parts/kit/KitField';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { kitWords } from '../../words/kit';
import { w } from '../../words/words';

const k = kitWords.polish;

const way: PolishWay = {
  facet: '',
  lap: '',
  lapItem: '',
  compound: '',
  compoundItem: '',
  rpm: 0,
  pressure: '',
  strokes: 0,
  minutes: 0,
  result: 3,
  photo: '',
};

/** Notes what a polish made of a facet, against the one opposite it. */
export function PolishDialog({ onClose }: { onClose: () => void }) {
  const [t, setT] = useState<PolishTrial>({ material: '', stone: '', ways: [way, way], note: '' });
  const { readable, report } = useReadable();
  const say = useNotice();
  const add = useMutation(addPolishTrial);
  const stones = useInfiniteQuery(stonesQuery({ text: t.material })).data?.pages[0]?.stones ?? [];
  const set = (change: Partial<PolishTrial>) => setT({ ...t, ...change });
  const setWay = (i: number, change: Partial<PolishWay>) =>
    set({ ways: t.ways.map((o, n) => (n === i ? { ...o, ...change } : o)) });
  const whole = t.material !== '' && t.ways.every((o) => o.lap.trim() !== '');
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>{k.title}</DialogTitle>
      <DialogContent>
        <FormFields value={report}>
          <Box sx={{ display: 'grid', gap: 4, pt: 2 }}>
            <Row>
              <MaterialField
                label={k.material}
                value={t.material}
                onChange={(material) => set({ material, stone: '' })}
              />
              <PickField
                label={k.stone}
                value={t.stone}
                options={[
                  { value: '', name: k.noStone },
                  ...stones
                    .filter((s) => s.material === t.material)
                    .map((s) => ({ value: s.id, name: `${s.number} · ${s.name || s.diagram}` })),
                ]}
                onChange={(stone) => set({ stone })}
                width={320}
              />
              <FormControlLabel
                control={
                  <Checkbox
                    checked={t.ways.length === 2}
                    onChange={(e) =>
                      set({ ways: e.target.checked ? [...t.ways, way] : t.ways.slice(0, 1) })
                    }
                  />
                }
                label={k.second}
              />
            </Row>
            <Box sx={{ display: 'flex', gap: 8, flexWrap: 'wrap' }}>
              {t.ways.map((o, i) => (
                <Way
                  key={i}
                  no={i}
                  way={o}
                  stone={t.stone}
                  onChange={(change) => setWay(i, change)}
                />
              ))}
            </Box>
            <TextField
              label={k.notes}
              value={t.note}
              multiline
              onChange={(e) => set({ note: e.target.value })}
            />
          </Box>
        </FormFields>
        <Refusal error={add.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!whole || !readable || add.isPending}
          onClick={() =>
            add.mutate(t, {
              onSuccess: () => {
                say({ text: k.kept });
                onClose();
              },
            })
          }
        >
          {k.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

interface WayProps {
  no: number;
  way: PolishWay;
  stone: string;
  onChange: (change: Partial<PolishWay>) => void;
}

/** One facet and how it was polished. */
function Way({ no, way: o, stone, onChange }: WayProps) {
  const name = k.way(no);
  const counted = (label: string, field: 'rpm' | 'strokes' | 'minutes', unit = '') => (
    <NumberField
      label={label}
      unit={unit}
      {...ranges.PolishWay[field]}
      value={o[field] || undefined}
      optional={k.notCounted}
      onChange={(v) => onChange({ [field]: v ?? 0 })}
      width={170}
    />
  );
  return (
    <Box
      role="group"
      aria-label={name}
      sx={{ flex: '1 1 380px', display: 'grid', gap: 3, borderTop: 1, pt: 2 }}
    >
      <Typography variant="h3">{name}</Typography>
      <Row>
        <TextField
          label={k.facet}
          value={o.facet}
          onChange={(e) => onChange({ facet: e.target.value })}
          sx={{ width: 140 }}
        />
        <PickField
          label={k.result}
          value={o.result}
          options={Object.entries(k.results).map(([v, n]) => ({ value: Number(v), name: n }))}
          onChange={(result) => onChange({ result })}
          width={140}
        />
        <Photo stone={stone} name={name} photo={o.photo} onPhoto={(photo) => onChange({ photo })} />
      </Row>
      <Box sx={{ display: 'flex', gap: 3 }}>
        <KitField
          label={k.lap}
          kind="lap"
          text={o.lap}
          item={o.lapItem}
          onChange={(lap, lapItem) => onChange({ lap, lapItem })}
        />
        <KitField
          label={k.compound}
          kind="compound"
          text={o.compound}
          item={o.compoundItem}
          onChange={(compound, compoundItem) => onChange({ compound, compoundItem })}
        />
      </Box>
      <Row>
        {counted(k.rpm, 'rpm', 'rpm')}
        <PickField
          label={k.pressure}
          value={o.pressure}
          options={k.pressures}
          onChange={(p) => onChange({ pressure: p as PolishWay['pressure'] })}
          width={170}
        />
      </Row>
      <Row>
        {counted(k.strokes, 'strokes')}
        {counted(k.minutes, 'minutes')}
      </Row>
    </Box>
  );
}

interface PhotoProps {
  stone: string;
  name: string;
  photo: string;
  onPhoto: (hash: string) => void;
}

/** A photo of the facet: it is one of the stone's, so a stone must be chosen. */
function Photo({ stone, name, photo, onPhoto }: PhotoProps) {
  const input = useRef<HTMLInputElement>(null);
  const add = useMutation(addPhotos);
  if (stone === '') return null;
  return (
    <>
      {photo ? (
        <Box
          component="img"
          src={`/api/photos/${photo}/small`}
          alt={k.photoOf(name)}
          sx={{ height: 44 }}
        />
      ) : (
        <Button disabled={add.isPending} onClick={() => input.current?.click()}>
          {k.photo}
        </Button>
      )}
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png"
        hidden
        aria-label={k.photoOf(name)}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          if (files.length > 0)
            add.mutate(
              { stone, shows: 'after', files },
              { onSuccess: ([kept]) => kept && onPhoto(kept.hash) },
            );
        }}
      />
      <Refusal error={add.error} />
    </>
  );
}
