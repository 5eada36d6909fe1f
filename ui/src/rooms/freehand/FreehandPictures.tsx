import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { Freehand, Mesh } from '../../api/client';
import { vec, type Side } from '../../parts/stone/geometry';
import { Profile } from '../../parts/stone/Profile';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { freehandWords as t } from '../../words/freehand';
import { w } from '../../words/words';
import type { Way } from './StopList';

interface Props {
  stone: Freehand | undefined;
  up: Side;
  /** The stone after the cut, where it is known where that stops. */
  after: Mesh | undefined;
  ways: readonly Way[];
  chosen: Way | undefined;
  onChoose: (way: Way) => void;
}

/** The stone as it is, with what the facet comes to ringed, and as it is after the cut. */
export function FreehandPictures({ stone, up, after, ways, chosen, onChoose }: Props) {
  if (!stone) return <LinearProgress aria-label={w.common.loading} />;
  const side = w.tiers.parts[up]!.toLowerCase();
  const byEye = ways.find((o) => o.key === 'here');
  const rings = ways.flatMap((o, i) =>
    o.at
      ? [
          {
            at: vec(o.at),
            n: i + 1,
            label: o.words,
            chosen: o.key === chosen?.key,
            run: () => onChoose(o),
          },
        ]
      : [],
  );
  const dials = stone.next?.dials ?? [];
  return (
    <Box sx={{ minHeight: 0, display: 'flex', flexDirection: 'column', p: 2 }}>
      <Box sx={{ flex: '1 1 0', minHeight: 0 }}>
        <StoneInWheel
          mesh={stone.mesh}
          up={up}
          wheel={stone.wheel}
          lit={dials.slice(1)}
          current={dials[0]}
          rings={rings}
          ring={chosen?.here && vec(chosen.here)}
          label={t.picture(side)}
          onPoint={byEye && (([x, y, z]) => onChoose({ ...byEye, here: { x, y, z } }))}
        />
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', height: '30%', gap: 2 }}>
        {[
          <StoneInWheel
            key="top"
            mesh={after ?? stone.mesh}
            up={up}
            label={`${t.picture(side)}, ${w.bench.after}`}
            pixel={0.8}
          />,
          <Profile key="side" mesh={after ?? stone.mesh} levels={stone.levels} />,
        ].map((picture, i) => (
          <Box
            component="figure"
            key={i}
            sx={{ m: 0, minHeight: 0, display: 'flex', flexDirection: 'column' }}
          >
            <Box sx={{ flex: '1 1 0', minHeight: 0 }}>{picture}</Box>
            <Typography component="figcaption" color="text.secondary" sx={{ textAlign: 'center' }}>
              {after ? w.bench.after : w.bench.now}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
