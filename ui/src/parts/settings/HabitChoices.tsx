import type { Habits } from '../../api/client';
import { ranges } from '../../api/ranges';
import { lapWords } from '../../words/laps';
import { machineWords as m } from '../../words/machine';
import { w } from '../../words/words';
import { NumberField } from '../fields/NumberField';
import { PickField } from '../fields/PickField';
import { Row } from '../Row';

type Planned = Pick<
  Habits,
  'girdle' | 'table' | 'visiting' | 'tableAt' | 'turning' | 'girdleSpare'
>;

interface Props {
  habits: Planned;
  /** When girdle and table are cut was settled before. */
  settled?: boolean | undefined;
  onChange: (change: Partial<Planned>) => void;
}

/** The habits that a plan takes over and can change. */
export function HabitChoices({ habits: h, settled, onChange }: Props) {
  return (
    <Row>
      {!settled && (
        <>
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
        </>
      )}
      <PickField
        label={m.visiting}
        value={h.visiting}
        options={m.visitings}
        onChange={(visiting) => onChange({ visiting })}
      />
      <PickField
        label={lapWords.tableAt}
        value={h.tableAt}
        options={lapWords.tableAts}
        onChange={(tableAt) => onChange({ tableAt })}
      />
      <PickField
        label={m.turning}
        value={h.turning}
        options={m.turnings}
        onChange={(turning) => onChange({ turning })}
      />
      <NumberField
        label={m.girdleSpare}
        unit={w.units.mm}
        {...ranges.Choices.girdleSpare}
        value={h.girdleSpare}
        onChange={(girdleSpare) => onChange({ girdleSpare })}
        help={m.girdleSpareHelp}
        width={220}
      />
    </Row>
  );
}
