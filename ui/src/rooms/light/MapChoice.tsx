import type { SweptPoint } from '../../api/client';
import { PickField } from '../../parts/fields/PickField';
import { lightWords } from '../../words/light';
import { carats, mm, percent } from '../../words/numbers';

export type MapOf = keyof typeof lightWords.sweep.maps;

interface Mapped {
  of: (p: SweptPoint) => number;
  format: (v: number) => string;
  /** Whether a is wanted rather than b. */
  better: (a: SweptPoint, b: SweptPoint) => boolean;
}

const map = (of: Mapped['of'], format: Mapped['format'], more: boolean): Mapped => ({
  of,
  format,
  better: (a, b) => (more ? of(a) > of(b) : of(a) < of(b)),
});

/** What a map can show of a point: more light and weight are wanted, and less of the rest. */
export const mapped: Record<MapOf, Mapped> = {
  return: map((p) => p.return, percent, true),
  window: map((p) => p.window, percent, false),
  headShadow: map((p) => p.headShadow, percent, false),
  leak: map((p) => p.leak, percent, false),
  carats: map((p) => p.carats ?? 0, carats, true),
  height: map((p) => p.height, mm, false),
};

/** Chooses what a map shows. */
export function MapChoice({
  of,
  onChange,
  weighed,
}: {
  of: MapOf;
  onChange: (of: MapOf) => void;
  weighed: boolean;
}) {
  const s = lightWords.sweep;
  const { carats: weight, ...rest } = s.maps;
  return (
    <PickField
      label={s.map}
      value={of}
      options={weighed ? { ...rest, carats: weight } : rest}
      onChange={onChange}
      width={190}
    />
  );
}
