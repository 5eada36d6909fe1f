import { expect, test } from 'vitest';
import fixtures from './fold.fixtures.json';
import type { LogEvent } from './events';
import { fold } from './fold';
import { addedTo, folded, nothing } from './folded';

const logs = fixtures as unknown as { name: string; events: LogEvent[] }[];

/** Maps have no order here. */
const plainly = (state: object) =>
  JSON.stringify(state, (_, v: unknown) =>
    v instanceof Map ? Object.fromEntries([...v].sort(([a], [b]) => (a < b ? -1 : 1))) : v,
  );

test.each(logs)(
  'folded entry by entry, the state is that of the whole log: $name',
  ({ events }) => {
    const stored = events.map((e, i): LogEvent => ({ ...e, held: 0, seq: i + 1 }));
    let own = nothing;
    let merged = nothing;
    stored.forEach((_, i) => {
      // As a browser has it: added here, then stored by the server, one after the other.
      const here = [
        ...stored.slice(0, i),
        { ...stored[i]!, device: 'page', deviceSeq: i + 1, held: 1 } satisfies LogEvent,
      ];
      own = addedTo(own, [here[i]!]);
      expect(plainly(own.state)).toBe(plainly(fold(here)));
      own = folded(stored.slice(0, i + 1), own);
      expect(plainly(own.state)).toBe(plainly(fold(stored.slice(0, i + 1))));
      // As one gets it that was away: every third entry comes late, in between the others.
      const late = stored.slice(0, i + 1).filter((_, k) => k % 3 !== 1 || k < i - 4);
      const before = plainly(merged.state);
      const next = folded(late, merged);
      expect(plainly(merged.state)).toBe(before);
      merged = next;
      expect(plainly(merged.state)).toBe(plainly(fold(late)));
    });
  },
);
