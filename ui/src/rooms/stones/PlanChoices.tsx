import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Assessment, Choices, Settings } from '../../api/client';
import { ranges } from '../../api/ranges';
import { machineOf } from '../../api/settings';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { names, PickField } from '../../parts/fields/PickField';
import { angle } from '../../words/numbers';
import { workWords } from '../../words/works';
import { w } from '../../words/words';

interface Props {
  choices: Choices;
  /** Girdle tiers that calipers can measure. */
  calipers: string[];
  settings: Settings;
  /** The machine's gears, the one that fits best first. */
  ranking: Assessment['ranking'];
  /** Its size and the side that is cut first were settled with the stone that came back. */
  settled?: boolean | undefined;
  onChange: (change: Partial<Choices>) => void;
}

/** What is decided when a stone is planned. */
export function PlanChoices(props: Props) {
  const { choices, calipers, settings, ranking, settled, onChange } = props;
  const { machines } = settings;
  return (
    <Box
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mb: 3 }}
      role="group"
      aria-label={w.stones.planTitle}
    >
      <MaterialField
        label={w.stones.material}
        value={choices.material}
        onChange={(material) => onChange({ material })}
        width={210}
      />
      {!settled && (
        <SizeChoice
          size={choices.size}
          calipers={calipers}
          onChange={(size) => onChange({ size })}
        />
      )}
      {machines.length > 1 && (
        <PickField
          label={w.stones.machine}
          value={machineOf(settings, choices.machine).id}
          options={Object.fromEntries(machines.map((m) => [m.id, m.name]))}
          onChange={(machine) => onChange({ machine })}
          width={190}
        />
      )}
      <GearChoice ranking={ranking} value={choices.gear} onChange={(gear) => onChange({ gear })} />
      {settled ? (
        <Typography color="text.secondary" sx={{ width: '100%' }}>
          {workWords.settled}
        </Typography>
      ) : (
        <PickField
          label={w.stones.firstSide}
          value={choices.firstSide}
          options={{ pavilion: w.tiers.parts.pavilion!, crown: w.tiers.parts.crown! }}
          onChange={(firstSide) => onChange({ firstSide })}
          width={140}
        />
      )}
    </Box>
  );
}

interface GearProps {
  ranking: Assessment['ranking'];
  value: number;
  onChange: (g: number) => void;
}

function GearChoice({ ranking, value, onChange }: GearProps) {
  const owned = ranking.map((g) => ({
    value: g.teeth,
    name: w.stones.gearFit(g.teeth, g.largestCheat > 0 ? angle(g.largestCheat) : ''),
  }));
  const other = owned.some((g) => g.value === value)
    ? []
    : [{ value, name: `${value} (${w.stones.notOwned})` }];
  return (
    <PickField
      label={w.stones.gear}
      value={value}
      options={[...owned, ...other]}
      onChange={onChange}
      width={210}
    />
  );
}

type Size = Choices['size'];

interface SizeProps {
  size: Size;
  calipers: string[];
  onChange: (s: Size) => void;
}

function SizeChoice({ size, calipers, onChange }: SizeProps) {
  const bases = Object.entries(w.stones.bases).map(([value, name]) => ({
    value: value as Size['basis'],
    name,
    disabled: value === 'flats' && calipers.length === 0,
  }));
  return (
    <>
      <NumberField
        label={`${w.stones.size} (${w.units.mm})`}
        {...ranges.Size.mm}
        value={size.mm}
        typed={size.typed}
        onChange={(mm, typed) => onChange({ ...size, mm, typed })}
        width={110}
      />
      <PickField
        label={w.stones.basis}
        value={size.basis}
        options={bases}
        onChange={(basis) =>
          onChange({ ...size, basis, tier: basis === 'flats' ? (calipers[0] ?? '') : '' })
        }
        width={180}
      />
      {size.basis === 'flats' && (
        <PickField
          label={w.stones.girdleTier}
          value={size.tier}
          options={names([...calipers, size.tier])}
          onChange={(tier) => onChange({ ...size, tier })}
          width={110}
        />
      )}
    </>
  );
}
