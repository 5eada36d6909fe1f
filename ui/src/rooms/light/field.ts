import type { Axis, Draft, SweepHead, SweepLine, SweepRequest, SweptPoint } from '../../api/client';
import type { Lighting } from '../../parts/light/lighting';
import { lightWords } from '../../words/light';
import { angle, ratio } from '../../words/numbers';

/** A field that was swept, or is being. */
export interface Field {
  /** Undefined until it is kept. */
  id: string | undefined;
  lighting: Lighting;
  x: Axis;
  y: Axis;
  /** What the diagram's tiers are called. */
  tiers: string[];
  /** Row by row from the least values on; a point that is still to come is undefined. */
  points: (SweptPoint | undefined)[];
  /** Where the diagram itself stands; undefined until the server has said it. */
  present: { x: number; y: number } | undefined;
  /** The diagram has changed since. */
  moved: boolean;
}

export interface Axes {
  x: Axis;
  y: Axis;
}

/** The field of a sweep that was kept. */
export function fieldOf({ asked, ...s }: SweepHead & { points: SweptPoint[] }): Field {
  const { x, y, ...lighting } = asked;
  return {
    id: s.id,
    lighting,
    x,
    y,
    tiers: s.tiers,
    points: s.points,
    present: { x: s.presentX, y: s.presentY },
    moved: s.changed,
  };
}

/** A sweep that is under way, as far as it has come. */
export interface Sweeping {
  done: number;
  total: number;
  field: Field;
}

/** A sweep after a line; the first line says what was asked. */
export function after(before: Sweeping | undefined, line: SweepLine): Sweeping {
  const field = line.asked ? started(line.asked) : before!.field;
  const points = [...field.points];
  for (const p of line.points) points[p.no] = p;
  return {
    done: line.done,
    total: line.total,
    field: {
      ...field,
      points,
      present: { x: line.presentX, y: line.presentY },
      id: line.kept?.id,
      moved: line.kept?.changed ?? false,
    },
  };
}

/** The field of a sweep that has just begun. */
function started({ x, y, draft, ...lighting }: SweepRequest): Field {
  return {
    id: undefined,
    lighting,
    x,
    y,
    tiers: namesOf(draft),
    points: Array.from({ length: x.steps * y.steps }),
    present: undefined,
    moved: false,
  };
}

export const namesOf = (draft: Draft): string[] => draft.tiers.map((t) => t.name);

/** What an axis changes, in words. */
export const axisText = (a: Axis, tiers: string[]): string =>
  a.kind === 'tier' ? lightWords.sweep.tier(tiers[a.tier] ?? '') : lightWords.sweep.kinds[a.kind];

/** A value on an axis, as people write it. */
export const valueText = (a: Axis, v: number): string =>
  a.kind === 'tier' ? `${angle(v)}°` : ratio(v);

/** A place of the field in a few words, for a name. */
export const placeText = (f: Field, p: SweptPoint): string =>
  (
    [
      [f.x, p.x],
      [f.y, p.y],
    ] as const
  )
    .map(([a, v]) => {
      const what = a.kind === 'tier' ? (f.tiers[a.tier] ?? '') : lightWords.sweep.sides[a.kind];
      return `${what} ${valueText(a, v)}`;
    })
    .join(', ');
