import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { Axis, AxisChoice } from '../../api/client';
import { ranges } from '../../api/ranges';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { lightWords } from '../../words/light';
import { axisText, type Axes } from './field';

const s = lightWords.sweep;

/** What is swept across and upwards, and from where to where. */
export function SweepAxes({
  axes,
  set,
  proposed,
  tiers,
  children,
}: {
  axes: Axes;
  set: (a: Axes) => void;
  /** What can be swept. */
  proposed: AxisChoice[];
  /** What the diagram's tiers are called. */
  tiers: string[];
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
          proposed={proposed}
          tiers={tiers}
        />
      ))}
      <NumberField
        label={s.steps}
        {...ranges.Axis.steps}
        value={axes.x.steps}
        whole
        onChange={(steps) => set({ x: { ...axes.x, steps }, y: { ...axes.y, steps } })}
        width={130}
      />
      {children}
    </Box>
  );
}

function AxisFields({
  label,
  axis,
  set,
  proposed,
  tiers,
}: {
  label: string;
  axis: Axis;
  set: (a: Axis) => void;
  proposed: AxisChoice[];
  tiers: string[];
}) {
  const own = proposed.find((p) => keyOf(p.axis) === keyOf(axis));
  return (
    <Box sx={{ display: 'flex', gap: 2 }}>
      <PickField
        label={label}
        value={keyOf(axis)}
        options={Object.fromEntries(proposed.map((p) => [keyOf(p.axis), axisText(p.axis, tiers)]))}
        onChange={(key) => {
          const chosen = proposed.find((p) => keyOf(p.axis) === key)!;
          set({ ...chosen.axis, steps: axis.steps });
        }}
        width={190}
      />
      {(['from', 'to'] as const).map((end) => (
        <NumberField
          key={end}
          label={s[end]}
          unit={axis.kind === 'tier' ? '°' : '×'}
          min={own?.within.low ?? -Infinity}
          max={own?.within.high ?? Infinity}
          value={axis[end]}
          onChange={(v) => set({ ...axis, [end]: v })}
          width={110}
        />
      ))}
    </Box>
  );
}

const keyOf = (a: Axis): string => (a.kind === 'tier' ? `tier ${a.tier}` : a.kind);
