import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Material } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { machineWords } from '../../words/machine';
import { w } from '../../words/words';
import { Row } from './MachineFields';
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
        <Box sx={{ display: 'grid', gap: 4, pt: 2 }} key={from}>
          <Row>
            <TextField
              label={m.material}
              value={o.name}
              autoFocus
              onChange={(e) => set({ name: e.target.value })}
              sx={{ width: 240 }}
            />
            <TextField
              select
              label={m.copyFrom}
              value={from}
              onChange={(e) => begin(e.target.value)}
              sx={{ width: 240 }}
            >
              {known.map((k) => (
                <MenuItem key={k.name} value={k.name}>
                  {k.name}
                </MenuItem>
              ))}
            </TextField>
          </Row>
          <Row>
            <NumberField
              label={`${m.index} ${m.from}`}
              min={1.3}
              max={4}
              value={o.refractiveIndex.low}
              onChange={(low) => set({ refractiveIndex: { ...o.refractiveIndex, low } })}
            />
            <NumberField
              label={`${m.index} ${m.to}`}
              min={1.3}
              max={4}
              value={o.refractiveIndex.high}
              onChange={(high) => set({ refractiveIndex: { ...o.refractiveIndex, high } })}
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
              min={0}
              max={1}
              value={o.birefringence}
              onChange={(birefringence) => set({ birefringence })}
            />
            <NumberField
              label={m.dispersion}
              min={0}
              max={1}
              value={o.dispersion}
              onChange={(dispersion) => set({ dispersion })}
            />
            <NumberField
              label={m.sg}
              min={0.8}
              max={20}
              value={o.sg}
              onChange={(sg) => set({ sg })}
            />
          </Row>
          <Row>
            <NumberField
              label={`${m.hardness} ${m.from}`}
              min={1}
              max={10}
              value={o.hardness.low}
              onChange={(low) => set({ hardness: { ...o.hardness, low } })}
            />
            <NumberField
              label={`${m.hardness} ${m.to}`}
              min={1}
              max={10}
              value={o.hardness.high}
              onChange={(high) => set({ hardness: { ...o.hardness, high } })}
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
      </DialogContent>
      <DialogActions>
        {onRemove && <Button onClick={onRemove}>{machineWords.remove(material.name)}</Button>}
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button variant="contained" disabled={o.name.trim() === ''} onClick={() => onKeep(o)}>
          {m.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
