import type { FreehandSetting } from '../../api/client';
import type { Side } from '../../parts/stone/geometry';

/** What is dialled, as it stands in the fields: undefined where a field is empty. */
export interface Dialled {
  up: Side;
  angle: number | undefined;
  index: number | undefined;
  /** How many facets go round the stone from that index on. */
  times: number;
}

/** How many facets can go round the stone at once: as a cutter counts them. */
export const rounds = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 16, 18, 20, 24, 32] as const;

/** What a setting asks of the server, null while a field is empty. */
export function settingOf(d: Dialled, gear: number): FreehandSetting | null {
  const { up, angle, index, times } = d;
  if (angle === undefined || index === undefined || index > gear) return null;
  const indexes = Array.from({ length: times }, (_, k) => {
    const at = (index + (k * gear) / times) % gear;
    // N and 0 are the same tooth; people write N.
    return Math.round((at < 1e-9 ? gear : at) * 1e9) / 1e9;
  });
  return { up, angle, indexes };
}
