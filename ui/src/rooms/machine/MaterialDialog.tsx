import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Material } from '../../api/client';
import { fieldsQuery } from '../../api/settings';
import { NumberField } from '../../parts/fields/NumberField';
import { names, PickField } from '../../parts/fields/PickField';
import { machineWords } from '../../words/machine';
import { w } from '../../words/words';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Row } from '../../parts/Row';
import type { OwnMaterial } from './MaterialsDesk';

const m = machineWords.material;

interface Props {
  material: OwnMaterial;
  /** The table, to begin with the figures of one of it. */
  known: Material[];
  onKeep: (m: OwnMaterial) => void;
  onRemove?: () => void;
  onClose: () => void;
}

/** A material's figures, without what the server reckons from them. */
export const figuresOf = (k: Material): OwnMaterial => ({
  name: k.name,
  refractiveIndex: k.refractiveIndex,
  optic: k.optic,
  birefringence: k.birefringence,
  dispersion: k.dispersion,
  sg: k.sg,
  hardness: k.hardness,
  heat: k.heat,
  solvent: k.solvent,
  dust: k.dust,
  cleavage: k.cleavage,
  polish: k.polish,
});

/** A material of one's own. It is saved with the page. */
export function MaterialDialog({ material, known, onKeep, onRemove, onClose }: Props) {
  const [o, setO] = useState(material);
  const [from, setFrom] = useState('');
  const { readable, report } = useReadable();
  const bounds = useQuery(fieldsQuery).data?.material ?? [];
  /** What a figure lies between; until that is known nothing is out of it. */
  const bound = (field: string) => {
    const b = bounds.find((o) => o.field === field);
    return { min: b?.low ?? -Infinity, max: b?.high ?? Infinity };
  };
  const set = (change: Partial<OwnMaterial>) => setO({ ...o, ...change });
  const begin = (name: string) => {
    const k = known.find((x) => x.name === name);
    if (!k) return;
    setFrom(name);
    setO({ ...figuresOf(k), name: o.name });
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{m.dialogTitle}</DialogTitle>
      <DialogContent>
        <FormFields value={report}>
          <Box sx={{ display: 'grid', gap: 4, pt: 2 }}>
            <Row>
              <TextField
                label={m.material}
                value={o.name}
                autoFocus
                onChange={(e) => set({ name: e.target.value })}
                sx={{ width: 240 }}
              />
              <PickField
                label={m.copyFrom}
                value={from}
                options={names(known.map((k) => k.name))}
                onChange={begin}
                width={240}
              />
            </Row>
            <Row>
              <RangeFields
                label={m.index}
                {...bound('refractiveIndex')}
                value={o.refractiveIndex}
                onChange={(refractiveIndex) => set({ refractiveIndex })}
              />
              <PickField
                label={m.optic}
                value={o.optic}
                options={m.optics}
                onChange={(optic) => set({ optic })}
                width={170}
              />
            </Row>
            <Row>
              <NumberField
                label={m.birefringence}
                {...bound('birefringence')}
                value={o.birefringence}
                onChange={(birefringence) => set({ birefringence })}
              />
              <NumberField
                label={m.dispersion}
                {...bound('dispersion')}
                value={o.dispersion ?? 0}
                onChange={(dispersion) => set({ dispersion: dispersion || null })}
              />
              <NumberField
                label={m.sg}
                {...bound('sg')}
                value={o.sg}
                onChange={(sg) => set({ sg })}
              />
            </Row>
            <Row>
              <RangeFields
                label={m.hardness}
                {...bound('hardness')}
                value={o.hardness}
                onChange={(hardness) => set({ hardness })}
              />
              <PickField
                label={m.cleavage}
                value={o.cleavage}
                options={m.cleavages}
                onChange={(cleavage) => set({ cleavage })}
                width={170}
              />
            </Row>
            <Row>
              <PickField
                label={m.polish}
                value={o.polish}
                options={m.polishes}
                onChange={(polish) => set({ polish })}
                width={170}
              />
              <PickField
                label={m.heat}
                value={o.heat}
                options={m.heats}
                onChange={(heat) => set({ heat })}
                width={170}
              />
              <PickField
                label={m.solvent}
                value={o.solvent}
                options={m.solvents}
                onChange={(solvent) => set({ solvent })}
                width={170}
              />
              <PickField
                label={m.dust}
                value={o.dust}
                options={m.dusts}
                onChange={(dust) => set({ dust })}
                width={170}
              />
            </Row>
          </Box>
        </FormFields>
      </DialogContent>
      <DialogActions>
        {onRemove && <Button onClick={onRemove}>{machineWords.remove(material.name)}</Button>}
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={o.name.trim() === '' || !readable}
          onClick={() => onKeep(o)}
        >
          {m.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

interface RangeProps {
  label: string;
  min: number;
  max: number;
  value: { low: number; high: number };
  onChange: (v: { low: number; high: number }) => void;
}

/** A figure that is known from one value to another. */
function RangeFields({ label, min, max, value, onChange }: RangeProps) {
  return (
    <>
      <NumberField
        label={`${label} ${m.from}`}
        min={min}
        max={max}
        value={value.low}
        onChange={(low) => onChange({ ...value, low })}
      />
      <NumberField
        label={`${label} ${m.to}`}
        min={min}
        max={max}
        value={value.high}
        onChange={(high) => onChange({ ...value, high })}
      />
    </>
  );
}
