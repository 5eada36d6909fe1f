import type { Habits } from '../../api/client';
import { machineWords as m } from '../../words/machine';
import { PickField } from '../fields/PickField';
import { Row } from '../Row';

type Planned = Pick<Habits, 'girdle' | 'table' | 'visiting' | 'girdleFinish' | 'turning'>;

interface Props {
  habits: Planned;
  onChange: (change: Partial<Planned>) => void;
}

/** The habits that a plan takes over and can change. */
export function HabitChoices({ habits: h, onChange }: Props) {
  return (
    <Row>
      <PickField
        label={m.girdle}
        value={h.girdle}
        options={m.whens}
        onChange={(girdle) => onChange({ girdle })}
      />
      <PickField
        label={m.table}
        value={h.table}
        options={m.whens}
        onChange={(table) => onChange({ table })}
      />
      <PickField
        label={m.visiting}
        value={h.visiting}
        options={m.visitings}
        onChange={(visiting) => onChange({ visiting })}
      />
      <PickField
        label={m.girdleFinish}
        value={h.girdleFinish}
        options={m.girdleFinishes}
        onChange={(girdleFinish) => onChange({ girdleFinish })}
      />
      <PickField
        label={m.turning}
        value={h.turning}
        options={m.turnings}
        onChange={(turning) => onChange({ turning })}
      />
    </Row>
  );
}
