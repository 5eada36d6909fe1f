import type { Assessment, Draft, LookRequest, Usual } from '../../api/client';
import type { Lighting } from '../../api/light';
import { ownIndex } from '../diagram/ownIndex';

export type { Lighting };

export type Show = LookRequest['show'];

/** How a diagram is first looked at: at its own index, without colour, as large as is usual. */
export const plainLighting = (draft: Draft, usual: Usual): Lighting => ({
  material: '',
  refractiveIndex: ownIndex(draft),
  tint: '',
  width: usual.width,
  model: usual.lightModel,
  headAngle: usual.headAngle,
  frostedGirdle: false,
});

/** How a planned stone is looked at: in its material, as large and as finished as it will be. */
export const plannedLighting = (a: Assessment, material: string, usual: Usual): Lighting => ({
  ...plainLighting(a.draft, usual),
  material,
  width: a.width,
  frostedGirdle: a.frostedGirdle,
});

/** How far the stone is tilted from face up, in degrees: the eye towards 3 and 12 o'clock. */
export interface Tilt {
  three: number;
  twelve: number;
}

export const faceUp: Tilt = { three: 0, twelve: 0 };

const most = 60;

/** A tilt as angle and azimuth. */
export function polar({ three, twelve }: Tilt): { tilt: number; to: number } {
  const to = (Math.atan2(three, twelve) * 180) / Math.PI;
  return { tilt: Math.min(most, Math.hypot(three, twelve)), to: (to + 360) % 360 };
}

/** A tilt changed by some degrees, as far as it goes. */
export function tilted(t: Tilt, three: number, twelve: number): Tilt {
  const next = { three: t.three + three, twelve: t.twelve + twelve };
  const over = Math.hypot(next.three, next.twelve) / most;
  return over > 1 ? { three: next.three / over, twelve: next.twelve / over } : next;
}
