import { angle } from '../../words/numbers';
import { machineWords as m } from '../../words/machine';
import { numbers, PickField } from '../fields/PickField';

const steps = [0.05, 0.1, 0.2, 0.25, 0.5, 1];

/** The finest step of a protractor, in degrees. */
export function StepField({ value, onChange }: { value: number; onChange: (v: number) => void }) {
  return (
    <PickField
      label={m.step}
      value={value}
      options={numbers([...steps, value], (s) => `${angle(s)}°`)}
      onChange={onChange}
      width={220}
    />
  );
}
