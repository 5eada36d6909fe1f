import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Machine } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { angle } from '../../words/numbers';
import { machineWords as m } from '../../words/machine';
import { GearsField } from './GearsField';

const steps = [0.05, 0.1, 0.2, 0.25, 0.5, 1];

export function StepField({ value, onChange }: { value: number; onChange: (v: number) => void }) {
  return (
    <TextField
      select
      label={m.step}
      value={value}
      onChange={(e) => onChange(Number(e.target.value))}
      sx={{ width: 220 }}
    >
      {[...new Set([...steps, value])].map((s) => (
        <MenuItem key={s} value={s}>
          {angle(s)}°
        </MenuItem>
      ))}
    </TextField>
  );
}

interface Props {
  machine: Machine;
  onChange: (change: Partial<Machine>) => void;
  /** Told whether the gears that are typed can be read. */
  onGears: (readable: boolean) => void;
}

/** A machine as its owner knows it. */
export function MachineFields({ machine: k, onChange, onGears }: Props) {
  return (
    <Box sx={{ display: 'grid', gap: 4 }}>
      <Row>
        <TextField
          label={m.name}
          value={k.name}
          onChange={(e) => onChange({ name: e.target.value })}
          sx={{ width: 260 }}
        />
        <GearsField
          value={k.gears}
          onChange={(gears) => {
            onGears(gears !== undefined);
            if (gears) onChange({ gears });
          }}
        />
      </Row>
      <Row>
        <StepField value={k.angleStep} onChange={(angleStep) => onChange({ angleStep })} />
        <NumberField
          label={m.low}
          unit="°"
          min={-30}
          max={89}
          value={k.angleLow}
          onChange={(angleLow) => onChange({ angleLow })}
        />
        <NumberField
          label={m.high}
          unit="°"
          min={30}
          max={180}
          value={k.angleHigh}
          onChange={(angleHigh) => onChange({ angleHigh })}
        />
      </Row>
      <Row>
        <NumberField
          label={m.zero}
          unit="°"
          min={-5}
          max={5}
          value={k.angleZero}
          help={m.zeroHelp}
          onChange={(angleZero) => onChange({ angleZero })}
          width={280}
        />
        <NumberField
          label={m.repeatability}
          unit="°"
          min={0}
          max={2}
          value={k.repeatability}
          help={m.repeatabilityHelp}
          onChange={(repeatability) => onChange({ repeatability })}
          width={230}
        />
      </Row>
      <Row>
        <PickField
          label={m.cheater}
          value={k.cheater}
          options={m.cheaters}
          onChange={(cheater) => onChange({ cheater })}
        />
        {k.cheater === 'turns' && (
          <NumberField
            label={m.cheatPerTurn}
            unit="°"
            min={0.01}
            max={30}
            value={k.cheatPerTurn}
            onChange={(cheatPerTurn) => onChange({ cheatPerTurn })}
          />
        )}
      </Row>
      <Row>
        <NumberField
          label={m.heightStep}
          unit="mm"
          min={0}
          max={1}
          value={k.heightStep}
          help={m.heightHelp}
          onChange={(heightStep) => onChange({ heightStep })}
          width={230}
        />
        <PickField
          label={m.heightSense}
          value={k.heightSense}
          options={m.heightSenses}
          onChange={(heightSense) => onChange({ heightSense })}
        />
        <NumberField
          label={m.adapter}
          unit="°"
          min={0}
          max={90}
          value={k.tableAdapter}
          help={m.adapterHelp}
          onChange={(tableAdapter) => onChange({ tableAdapter })}
        />
      </Row>
    </Box>
  );
}

export function Row({ children }: { children: React.ReactNode }) {
  return (
    <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', alignItems: 'flex-start' }}>
      {children}
    </Box>
  );
}
