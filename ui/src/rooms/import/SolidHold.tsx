import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { usualQuery } from '../../api/settings';
import { holdSolid, type HeldSolid, type SolidFile } from '../../api/solving';
import { numbers, PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { Care } from '../../parts/Page';
import { angle, percent, plain, thousandths } from '../../words/numbers';
import { solidWords } from '../../words/solids';
import { SolidDrawn } from '../../parts/stone/SolidDrawn';

const s = solidWords;

/** A solid that came in, in the round, and how it is held: what points up, on which gear. */
export function SolidHold({
  solid,
  onHold,
}: {
  solid: HeldSolid;
  onHold: (next: HeldSolid) => void;
}) {
  const gears = useQuery(usualQuery).data?.gears ?? [];
  const hold = useMutation(holdSolid);
  const change = (to: Partial<SolidFile>) =>
    hold.mutate({ ...solid.file, ...to }, { onSuccess: onHold });
  const ups = directions(solid);
  const now = ups.find((u) => same(u.up, solid.file.up)) ?? ups[0]!;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', lg: '1fr 1.4fr' }, gap: 4 }}>
      <Box sx={{ display: 'flex', flexDirection: 'column', gap: 3, alignItems: 'flex-start' }}>
        <Typography variant="h3">{s.held}</Typography>
        <PickField
          label={s.up}
          value={now.key}
          options={Object.fromEntries(ups.map((u) => [u.key, u.name]))}
          onChange={(key) => change({ up: ups.find((u) => u.key === key)!.up })}
          width={320}
        />
        <PickField
          label={s.through}
          value={solid.file.centroid ? 'centroid' : 'origin'}
          options={s.throughs}
          onChange={(v) => change({ centroid: v === 'centroid' })}
        />
        <PickField
          label={s.gear}
          value={solid.file.gear}
          options={numbers([solid.file.gear, ...gears])}
          onChange={(gear) => change({ gear })}
          width={110}
        />
        <FormControlLabel
          control={
            <Checkbox
              checked={solid.file.apart}
              onChange={(e) => change({ apart: e.target.checked })}
            />
          }
          label={s.apart}
        />
        {solid.placed.merged > 0 && (
          <Care>{s.merged(solid.placed.merged, angle(solid.placed.mergedBy))}</Care>
        )}
        {solid.placed.moved >= 0.001 && <Care>{s.moved(thousandths(solid.placed.moved))}</Care>}
        <Typography color="text.secondary">{s.wide(plain(round2(solid.placed.width)))}</Typography>
        <Refusal error={hold.error} />
      </Box>
      <Box>
        <SolidDrawn draft={solid.placed.draft} />
      </Box>
    </Box>
  );
}

const round2 = (v: number) => Math.round(v * 100) / 100;

const same = (a: SolidFile['up'], b: SolidFile['up']) =>
  Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z) < 1e-6;

/** What can point up: the file's axes, then its faces from the largest on. */
function directions({ placed }: HeldSolid): { key: string; name: string; up: SolidFile['up'] }[] {
  const axes = (['z', 'x', 'y'] as const).flatMap((axis) =>
    [1, -1].map((sign) => ({
      key: `${sign}${axis}`,
      name: sign > 0 ? s.axes[axis]! : s.minus(s.axes[axis]!),
      up: { x: 0, y: 0, z: 0, [axis]: sign },
    })),
  );
  const faces = placed.faces
    .map((f, i) => ({
      key: `face${i}`,
      name: s.face(i + 1, f.corners, percent(f.area)),
      up: f.up,
    }))
    .filter((f) => !axes.some((a) => same(a.up, f.up)));
  return [...axes, ...faces];
}
