import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { Machine } from '../../api/client';
import { ranges } from '../../api/ranges';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { machineWords as m } from '../../words/machine';
import { Row } from '../../parts/Row';
import { HoleFields } from './HoleFields';
import { RepeatabilityTest } from './RepeatabilityTest';
import { StepField } from '../../parts/settings/StepField';
import { ShelfGears } from './ShelfGears';
import { GearsField } from '../../parts/settings/GearsField';

interface Props {
  machine: Machine;
  onChange: (change: Partial<Machine>) => void;
}

/** One division of most height dials, in mm. */
const usualDivision = 0.01;

/** A machine as its owner knows it. */
export function MachineFields({ machine: k, onChange }: Props) {
  return (
    <Box sx={{ display: 'grid', gap: 4 }}>
      <Row>
        <TextField
          label={m.name}
          value={k.name}
          onChange={(e) => onChange({ name: e.target.value })}
          sx={{ width: 260 }}
        />
        <GearsField value={k.gears} onChange={(gears) => onChange({ gears })} />
      </Row>
      <ShelfGears
        gears={k.gears}
        onAdd={(teeth) => onChange({ gears: [...k.gears, teeth].sort((a, b) => a - b) })}
      />
      <Row>
        <PickField
          label={m.setting}
          value={k.setting}
          options={m.settings}
          onChange={(setting) => onChange({ setting })}
        />
        {k.setting === 'protractor' && (
          <>
            <StepField value={k.angleStep} onChange={(angleStep) => onChange({ angleStep })} />
            <NumberField
              label={m.low}
              unit="°"
              {...ranges.Machine.angleLow}
              value={k.angleLow}
              onChange={(angleLow) => onChange({ angleLow })}
            />
            <NumberField
              label={m.high}
              unit="°"
              {...ranges.Machine.angleHigh}
              value={k.angleHigh}
              onChange={(angleHigh) => onChange({ angleHigh })}
            />
          </>
        )}
      </Row>
      {k.setting === 'holes' && <HoleFields machine={k} onChange={onChange} />}
      <Row>
        {k.setting === 'protractor' && (
          <NumberField
            label={m.zero}
            unit="°"
            {...ranges.Machine.angleZero}
            value={k.angleZero}
            help={m.zeroHelp}
            onChange={(angleZero) => onChange({ angleZero })}
            width={280}
          />
        )}
        <NumberField
          label={m.repeatability}
          unit="°"
          {...ranges.Machine.repeatability}
          value={k.repeatability}
          help={m.repeatabilityHelp}
          onChange={(repeatability) => onChange({ repeatability })}
          width={330}
        />
        <RepeatabilityTest onTake={(repeatability) => onChange({ repeatability })} />
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
            {...ranges.Machine.cheatPerTurn}
            value={k.cheatPerTurn}
            onChange={(cheatPerTurn) => onChange({ cheatPerTurn })}
          />
        )}
      </Row>
      <Row>
        <PickField
          label={m.height}
          value={k.heightStep > 0 ? 'dial' : 'none'}
          options={m.heights}
          onChange={(has) => onChange({ heightStep: has === 'dial' ? usualDivision : 0 })}
        />
        {k.heightStep > 0 && (
          <>
            <NumberField
              label={m.heightStep}
              unit="mm"
              {...ranges.Machine.heightStep}
              value={k.heightStep}
              onChange={(heightStep) => onChange({ heightStep })}
              width={230}
            />
            <PickField
              label={m.heightSense}
              value={k.heightSense}
              options={m.heightSenses}
              onChange={(heightSense) => onChange({ heightSense })}
            />
          </>
        )}
        <NumberField
          label={m.adapter}
          unit="°"
          {...ranges.Machine.tableAdapter}
          value={k.tableAdapter}
          help={m.adapterHelp}
          onChange={(tableAdapter) => onChange({ tableAdapter })}
        />
        <NumberField
          label={m.quill}
          unit="mm"
          {...ranges.Machine.quillMM}
          value={k.quillMM}
          help={m.quillHelp}
          onChange={(quillMM) => onChange({ quillMM })}
        />
        <NumberField
          label={m.reach}
          unit="mm"
          {...ranges.Machine.reachMM}
          value={k.reachMM}
          help={m.reachHelp}
          onChange={(reachMM) => onChange({ reachMM })}
        />
      </Row>
    </Box>
  );
}
