import Button from '@mui/material/Button';
import type { KeyboardEvent } from 'react';
import { live } from '../../live/browser';
import type { Quantity } from '../../live/live';
import { instrumentWords as t } from '../../words/instruments';
import { gramsPerCarat, plain } from '../../words/numbers';
import { takeKey } from './takeKey';
import { useReadings } from './useReadings';

/** What a field may take from the bench: quantities, the first that is read, as figures of the field's unit. */
export interface Measurable {
  quantities: readonly Quantity[];
  per?: number;
}

/** What fields may take, by name. */
export const reads = {
  angle: { quantities: ['angle'] },
  index: { quantities: ['index'] },
  height: { quantities: ['height'] },
  calipers: { quantities: ['calipers'] },
  carats: { quantities: ['scale'] },
  grams: { quantities: ['scale'], per: gramsPerCarat },
} satisfies Record<string, Measurable>;

const byUnit: Record<string, Measurable> = {
  '°': reads.angle,
  mm: { quantities: ['calipers', 'height'] },
  ct: reads.carats,
  g: reads.grams,
};

/** What a field in a unit may take, where it does not say. */
export const measurable = (unit: string | undefined): Measurable | undefined =>
  unit === undefined ? undefined : byUnit[unit];

/** What a field does with a key: the one that takes a reading gives it to f as it would be typed. */
export const taking =
  (of: Measurable | undefined, f: (figure: string) => void) =>
  (e: KeyboardEvent): void => {
    const v = of && e.key === takeKey ? offered(of) : undefined;
    if (v === undefined) return;
    e.preventDefault();
    f(plain(v));
  };

/** The figure that an instrument offers to a field now, to a ten-thousandth; undefined where none does. */
function offered({ quantities, per = 1 }: Measurable): number | undefined {
  for (const q of quantities) {
    const reading = live.readings().get(q);
    if (reading) return Math.round(reading.value * per * 1e4) / 1e4;
  }
  return undefined;
}

/** Beside a field that has the focus: what an instrument reads, to be taken with one key or one touch. */
export function ReadingOffer(props: { of: Measurable; onTake: (figure: string) => void }) {
  const { of, onTake } = props;
  const readings = useReadings();
  const quantity = of.quantities.find((q) => readings.has(q));
  if (!quantity) return null;
  const text = t.reading[quantity](readings.get(quantity)!.value);
  return (
    <Button
      size="small"
      tabIndex={-1}
      data-offer={quantity}
      aria-label={t.take(text)}
      // The field keeps the focus.
      onMouseDown={(e) => e.preventDefault()}
      onClick={() => onTake(plain(offered(of)!))}
      sx={{ minWidth: 0, px: 2, ml: 2, minHeight: 36, fontVariantNumeric: 'tabular-nums' }}
    >
      {takeKey} {text}
    </Button>
  );
}
