import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import { ranges } from '../api/ranges';
import { NumberField } from '../parts/fields/NumberField';
import { PickField } from '../parts/fields/PickField';
import { plain } from '../words/numbers';
import { simulatorWords as t } from '../words/simulator';
import { w } from '../words/words';
import { ErrorsDialog, RoughDialog } from './SetupDialogs';
import type { Beside, Machine } from './useMachine';

interface Props {
  machine: Machine;
  hearing: boolean;
  onHear: () => void;
}

const limits = ranges.SimulatedControls;

/** All that a hand can move at the machine. */
export function Hands({ machine, hearing, onHear }: Props) {
  const { scene, set } = machine;
  const { controls, beside } = scene;
  const [dialog, open] = useState<'rough' | 'errors'>();
  const errs = Object.values(scene.errors).some(Boolean);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 4, pt: 3 }}>
      <Line top>
        <NumberField
          label={t.stop}
          unit={w.units.degrees}
          {...limits.angle}
          value={controls.angle}
          onChange={(angle) => set({ angle })}
          width={130}
        />
        <NumberField
          label={t.tooth}
          min={1}
          max={scene.setup.gear}
          whole
          value={controls.tooth}
          onChange={(tooth) => set({ tooth })}
          width={110}
        />
        <NumberField
          label={t.cheat}
          unit={w.units.degrees}
          {...limits.cheat}
          value={controls.cheat}
          onChange={(cheat) => set({ cheat })}
          width={130}
        />
        <NumberField
          label={t.mast}
          unit={w.units.mm}
          {...limits.height}
          value={controls.height}
          onChange={(height) => set({ height })}
          width={150}
          help={t.touching(plain(scene.touching))}
        />
      </Line>
      <Line>
        <Button
          variant="contained"
          onClick={() => set({ down: !controls.down })}
          sx={{ minHeight: 64, minWidth: 240, fontSize: '1.25rem' }}
        >
          {controls.down ? t.lift : t.lower}
        </Button>
        <Button sx={{ minHeight: 64 }} onClick={() => set({ height: scene.touching })}>
          {t.touch}
        </Button>
      </Line>
      <Line>
        <PickField
          label={t.lap}
          value={String(controls.lap)}
          options={scene.laps.map((l, i) => ({
            value: String(i),
            name: `${l.name} · ${t.grain(l.grain)}`,
          }))}
          onChange={(lap) => set({ lap: Number(lap) })}
          width={220}
        />
        <Typography color="text.secondary">{t.sharp(scene.sharp)}</Typography>
        <Button onClick={machine.charge} disabled={scene.sharp > 0.995}>
          {t.charge}
        </Button>
      </Line>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 8, px: 2 }}>
        <Amount
          label={t.rpm}
          unit={t.rpmUnit}
          {...limits.rpm}
          step={50}
          value={controls.rpm}
          onChange={(rpm) => set({ rpm })}
        />
        <Amount
          label={t.force}
          unit={t.forceUnit}
          {...limits.force}
          step={0.5}
          value={controls.force}
          onChange={(force) => set({ force })}
        />
      </Box>
      <Line>
        <Toggle on={controls.free} onChange={(free) => set({ free })}>
          {t.free}
        </Toggle>
        {controls.free && (
          <NumberField
            label={t.turns}
            {...limits.turns}
            value={controls.turns}
            onChange={(turns) => set({ turns })}
            width={150}
          />
        )}
        <Toggle on={controls.adapter} onChange={(adapter) => set({ adapter })}>
          {t.adapter}
        </Toggle>
        <Button onClick={machine.turnOver}>{t.over}</Button>
      </Line>
      <Line>
        <Choice
          label={t.measuring}
          value={beside.measuring}
          of={{ '': t.nothing, calipers: t.calipers, scale: t.scale }}
          onChange={(measuring) => machine.beside({ measuring: measuring as Beside['measuring'] })}
        />
        <PickField
          label={t.pace}
          value={String(beside.pace)}
          options={[...new Set([1, 4, 16, beside.pace])].map((p) => ({
            value: String(p),
            name: t.paces[p] ?? `× ${plain(p)}`,
          }))}
          onChange={(pace) => machine.beside({ pace: Number(pace) })}
          width={170}
        />
        <Toggle on={hearing} onChange={onHear}>
          {t.hear}
        </Toggle>
      </Line>
      <Line>
        <Button onClick={() => open('rough')}>{t.rough}</Button>
        <Button onClick={() => open('errors')}>{t.errors}</Button>
        <Button onClick={() => machine.beside({ unplugged: !beside.unplugged })}>
          {beside.unplugged ? t.plug : t.pull}
        </Button>
        {errs && <Typography color="secondary.main">{t.errorsSet}</Typography>}
      </Line>
      <Typography color="text.secondary">{t.caution}</Typography>
      {dialog === 'rough' && (
        <RoughDialog
          setup={scene.setup}
          onClose={() => open(undefined)}
          onDop={(setup) => {
            machine.dop(setup);
            open(undefined);
          }}
        />
      )}
      {dialog === 'errors' && (
        <ErrorsDialog
          errors={scene.errors}
          usual={scene.usual}
          onClose={() => open(undefined)}
          onSet={(errors) => {
            machine.spoil(errors);
            open(undefined);
          }}
        />
      )}
    </Box>
  );
}

const Line = ({ children, top }: { children: ReactNode; top?: boolean }) => (
  <Box
    sx={{
      display: 'flex',
      gap: 3,
      flexWrap: 'wrap',
      alignItems: top ? 'flex-start' : 'center',
    }}
  >
    {children}
  </Box>
);

function Toggle(props: { on: boolean; onChange: (on: boolean) => void; children: string }) {
  const { on, onChange, children } = props;
  return (
    <ToggleButton value="on" selected={on} onChange={() => onChange(!on)}>
      {children}
    </ToggleButton>
  );
}

function Choice(props: {
  label: string;
  value: string;
  of: Record<string, string>;
  onChange: (value: string) => void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      value={props.value}
      onChange={(_, v: string | null) => v !== null && props.onChange(v)}
      aria-label={props.label}
    >
      {Object.entries(props.of).map(([value, name]) => (
        <ToggleButton key={value} value={value}>
          {name}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

function Amount(props: {
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  value: number;
  onChange: (value: number) => void;
}) {
  const { label, unit, min, max, step, value, onChange } = props;
  return (
    <Box>
      <Typography color="text.secondary">
        {label}: {plain(value)} {unit}
      </Typography>
      <Slider
        aria-label={label}
        {...{ min, max, step, value }}
        onChange={(_, v) => onChange(v as number)}
      />
    </Box>
  );
}
