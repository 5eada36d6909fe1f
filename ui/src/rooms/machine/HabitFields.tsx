import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { Habits } from '../../api/client';
import { PassList } from '../../parts/PassList';
import { PickField } from '../../parts/PickField';
import { machineWords as m } from '../../words/machine';
import { Row } from './MachineFields';

export type Ways = Pick<Habits, 'girdle' | 'table' | 'visiting' | 'girdleFinish' | 'turning'>;

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
      </Row>
      <WayFields ways={h} onChange={onChange} />
      <Box sx={{ maxWidth: 560 }}>
        <PassList head={m.passes} passes={h.passes} onChange={(passes) => onChange({ passes })} />
      </Box>
    </Box>
  );
}

/** The habits that a plan takes over and can change. */
export function WayFields({
  ways,
  onChange,
}: {
  ways: Ways;
  onChange: (change: Partial<Ways>) => void;
}) {
  return (
    <Row>
      <PickField
        label={m.girdle}
        value={ways.girdle}
        options={m.whens}
        onChange={(girdle) => onChange({ girdle })}
      />
      <PickField
        label={m.table}
        value={ways.table}
        options={m.whens}
        onChange={(table) => onChange({ table })}
      />
      <PickField
        label={m.visiting}
        value={ways.visiting}
        options={m.visitings}
        onChange={(visiting) => onChange({ visiting })}
      />
      <PickField
        label={m.girdleFinish}
        value={ways.girdleFinish}
        options={m.girdleFinishes}
        onChange={(girdleFinish) => onChange({ girdleFinish })}
      />
      <PickField
        label={m.turning}
        value={ways.turning}
        options={m.turnings}
        onChange={(turning) => onChange({ turning })}
      />
    </Row>
  );
}
