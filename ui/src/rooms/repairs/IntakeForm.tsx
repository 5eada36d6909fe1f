import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import type { Intake } from '../../api/client';
import { ranges } from '../../api/ranges';
import { materialsQuery } from '../../api/settings';
import { NumberField } from '../../parts/fields/NumberField';
import { repairWords as r } from '../../words/repairs';

export interface Written {
  name: string;
  intake: Intake;
}

export const nothingWritten: Written = {
  name: '',
  intake: {
    owner: '',
    material: '',
    carats: 0,
    widthMM: 0,
    lengthMM: 0,
    heightMM: 0,
    damage: '',
    agreed: '',
    promised: '',
  },
};

/** What is written down when a stone comes in. Figures that were not taken are 0. */
export function IntakeForm({
  value,
  onChange,
  named = true,
}: {
  value: Written;
  onChange: (v: Written) => void;
  /** What it is is asked: a stone that was cut here has its name. */
  named?: boolean;
}) {
  const materials = useQuery(materialsQuery).data ?? [];
  const { intake } = value;
  const set = (change: Partial<Intake>) => onChange({ ...value, intake: { ...intake, ...change } });
  const size = (key: 'widthMM' | 'lengthMM' | 'heightMM', label: string) => (
    <NumberField
      label={label}
      unit="mm"
      {...ranges.Intake[key]}
      value={intake[key]}
      onChange={(v) => set({ [key]: v })}
      width={130}
    />
  );
  const lines = (key: 'damage' | 'agreed', label: string) => (
    <TextField
      label={label}
      value={intake[key]}
      onChange={(e) => set({ [key]: e.target.value })}
      multiline
      minRows={3}
      sx={{ flex: '1 1 320px' }}
    />
  );
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 4, maxWidth: 860 }}>
      {named && (
        <TextField
          label={r.what}
          placeholder={r.whatExample}
          value={value.name}
          onChange={(e) => onChange({ ...value, name: e.target.value })}
          sx={{ flex: '1 1 320px' }}
          required
        />
      )}
      <TextField
        label={r.owner}
        value={intake.owner}
        onChange={(e) => set({ owner: e.target.value })}
        sx={{ flex: '1 1 240px' }}
      />
      <Autocomplete
        freeSolo
        options={materials.map((m) => m.name)}
        inputValue={intake.material}
        onInputChange={(_, material) => set({ material })}
        renderInput={(props) => <TextField {...props} label={r.material} />}
        sx={{ width: 220 }}
      />
      <NumberField
        label={r.carats}
        unit="ct"
        {...ranges.Intake.carats}
        value={intake.carats}
        onChange={(carats) => set({ carats })}
        width={130}
      />
      {size('lengthMM', r.length)}
      {size('widthMM', r.width)}
      {size('heightMM', r.height)}
      <TextField
        type="date"
        label={r.promised}
        value={intake.promised}
        onChange={(e) => set({ promised: e.target.value })}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <Box sx={{ flexBasis: '100%', display: 'flex', gap: 4, flexWrap: 'wrap' }}>
        {lines('damage', r.damage)}
        {lines('agreed', r.agreed)}
      </Box>
    </Box>
  );
}
