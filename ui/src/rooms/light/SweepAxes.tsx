import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { Axis, Draft } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { lightWords } from '../../words/light';
import { parseNumber } from '../../words/numbers';
import type { Axes } from './field';

const s = lightWords.sweep;

/** What is swept across and upwards, and from where to where. */
export function SweepAxes({
  axes,
  set,
  draft,
  children,
}: {
  axes: Axes;
  set: (a: Axes) => void;
  draft: Draft;
  children?: ReactNode;
}) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 4, rowGap: 3 }}>
      {(['x', 'y'] as const).map((which) => (
        <AxisFields
          key={which}
          label={which === 'x' ? s.across : s.up}
          axis={axes[which]}
          set={(a) => set({ ...axes, [which]: a })}
          draft={draft}
        />
      ))}
      <NumberField
        label={s.steps}
        min={2}
        max={60}
        value={axes.x.steps}
        onChange={(n) => {
          const steps = Math.round(n);
          set({ x: { ...axes.x, steps }, y: { ...axes.y, steps } });
        }}
        width={130}
      />
      {children}
    </Box>
  );
}

/** How far to both sides of what it is now an axis runs at first: a factor, and degrees. */
const around = { factor: 0.1, degrees: 3 };

function AxisFields({
  label,
  axis,
  set,
  draft,
}: {
  label: string;
  axis: Axis;
  set: (a: Axis) => void;
  draft: Draft;
}) {
  const unit = axis.kind === 'tier' ? '°' : '×';
  const choose = (value: string) => {
    if (value === 'pavilion' || value === 'crown') {
      set({ ...axis, kind: value, tier: 0, from: 1 - around.factor, to: 1 + around.factor });
      return;
    }
    const tier = Number(value);
    const now = parseNumber(draft.tiers[tier]?.angle ?? '') ?? 45;
    const from = Math.max(0.1, now - around.degrees);
    set({ ...axis, kind: 'tier', tier, from, to: Math.min(90, now + around.degrees) });
  };
  return (
    <Box sx={{ display: 'flex', gap: 2 }}>
      <PickField
        label={label}
        value={axis.kind === 'tier' ? String(axis.tier) : axis.kind}
        options={{
          ...s.kinds,
          // A level facet has no angle to change.
          ...Object.fromEntries(
            draft.tiers.flatMap((t, i) =>
              parseNumber(t.angle) === 0 ? [] : [[String(i), s.tier(t.name)]],
            ),
          ),
        }}
        onChange={choose}
        width={190}
      />
      {(['from', 'to'] as const).map((end) => (
        <NumberField
          key={`${axis.kind} ${axis.tier} ${end}`}
          label={s[end]}
          unit={unit}
          min={0.01}
          max={axis.kind === 'tier' ? 90 : 10}
          value={axis[end]}
          onChange={(v) => set({ ...axis, [end]: v })}
          width={110}
        />
      ))}
    </Box>
  );
}
