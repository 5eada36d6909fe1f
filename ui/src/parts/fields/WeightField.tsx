import { gramsPerCarat, carats, grams } from '../../words/numbers';
import { w } from '../../words/words';
import { reads } from '../instruments/ReadingOffer';
import { NumberField } from './NumberField';

export type WeightUnit = 'ct' | 'g';

interface Props {
  label: string;
  /** In carats, 0 where it was not taken; so are min and max. */
  value: number;
  min: number;
  max: number;
  /** What it is typed in. */
  unit: WeightUnit;
  help?: string;
  onChange: (carats: number) => void;
}

/** A weight that is kept in carats, typed in carats or in grams; the other stands beneath. */
export function WeightField({ label, value, min, max, unit, help, onChange }: Props) {
  const per = unit === 'g' ? gramsPerCarat : 1;
  const other = value > 0 ? `= ${unit === 'g' ? carats(value) : grams(value)}` : '';
  return (
    <NumberField
      // What was typed in one unit is written anew in the other.
      key={unit}
      label={`${label} (${w.units[unit]})`}
      min={min * per}
      max={max * per}
      optional=""
      value={value > 0 ? tidy(value * per) : undefined}
      onChange={(v) => onChange(v === undefined ? 0 : tidy(v / per))}
      help={[other, help].filter(Boolean).join(' · ')}
      measures={unit === 'g' ? reads.grams : reads.carats}
      width="100%"
    />
  );
}

/** Drops what a factor of 0.2 adds in binary. */
const tidy = (v: number): number => Math.round(v * 1e9) / 1e9;
