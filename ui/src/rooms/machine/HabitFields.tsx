import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { Habits } from '../../api/client';
import { HoldChoices } from '../../parts/kit/HoldChoices';
import { LapChoices } from '../../parts/work/LapChoices';
import { ranges } from '../../api/ranges';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { machineWords as m } from '../../words/machine';
import { Row } from '../../parts/Row';
import { HabitChoices } from '../../parts/settings/HabitChoices';

interface Props {
  habits: Habits;
  onChange: (change: Partial<Habits>) => void;
}

/** How a cutter likes to work. */
export function HabitFields({ habits: h, onChange }: Props) {
  return (
    <Box sx={{ display: 'grid', gap: 4 }}>
      <Row>
        <TextField
          label={m.name}
          value={h.name}
          onChange={(e) => onChange({ name: e.target.value })}
          sx={{ width: 230 }}
        />
        <PickField
          label={m.firstSide}
          value={h.firstSide}
          options={m.firstSides}
          onChange={(firstSide) => onChange({ firstSide })}
        />
        <PickField
          label={m.tick}
          value={h.tick}
          options={m.ticks}
          onChange={(tick) => onChange({ tick })}
        />
        <PickField
          label={m.long}
          value={h.long}
          options={m.longs}
          onChange={(long) => onChange({ long })}
        />
      </Row>
      <HabitChoices habits={h} onChange={onChange} />
      <Box sx={{ maxWidth: 640 }}>
        <LapChoices head={m.passes} laps={h} onChange={onChange} />
        <HoldChoices holds={h.holds} onChange={(holds) => onChange({ holds })} />
      </Box>
      <RoughHabits habits={h} onChange={onChange} />
    </Box>
  );
}

/** How a stone is sawn and shaped before it is cut. */
function RoughHabits({ habits: h, onChange }: Props) {
  const preform = (change: Partial<Habits['preform']>) =>
    onChange({ preform: { ...h.preform, ...change } });
  return (
    <Box component="section" aria-label={m.rough.head} sx={{ display: 'grid', gap: 4 }}>
      <Typography variant="h3">{m.rough.head}</Typography>
      <Row>
        <NumberField
          label={m.rough.allowance}
          unit="mm"
          {...ranges.Habits.allowance}
          value={h.allowance}
          onChange={(allowance) => onChange({ allowance })}
          width={230}
        />
        <NumberField
          label={m.rough.kerf}
          unit="mm"
          {...ranges.Habits.kerf}
          value={h.kerf}
          onChange={(kerf) => onChange({ kerf })}
          width={230}
        />
      </Row>
      <Row>
        <NumberField
          label={m.rough.under}
          unit="°"
          {...ranges.PreformHabit.under}
          value={h.preform.under}
          onChange={(under) => preform({ under })}
          width={230}
        />
        <NumberField
          label={m.rough.side}
          unit="mm"
          {...ranges.PreformHabit.side}
          value={h.preform.side}
          onChange={(side) => preform({ side })}
          width={230}
        />
        <NumberField
          label={m.rough.foot}
          unit="mm"
          {...ranges.PreformHabit.foot}
          value={h.preform.foot}
          onChange={(foot) => preform({ foot })}
          width={230}
        />
      </Row>
    </Box>
  );
}
