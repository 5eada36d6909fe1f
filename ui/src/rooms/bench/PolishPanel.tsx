import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import { wheelWords as t } from '../../words/wheel';
import { lapOf } from './order';
import { Panel } from './Panel';
import { adviceFor, neighbours, outlineOf, type Zone } from './polish';
import { cross, lookingAt } from '../../parts/stone/geometry';
import { upOf } from '../../parts/stone/setups';
import { facetName } from './work';

interface Props {
  script: BenchScript;
  shown: number;
  onClose: () => void;
}

const zones: Zone[] = [1, 0, -1].flatMap((up) => [-1, 0, 1].map((right) => ({ right, up })));

/** A facet that polishes from one side first: tapped where it is bright, told in this machine's frame. */
export function PolishPanel({ script, shown, onClose }: Props) {
  const [zone, setZone] = useState<Zone>();
  const visit = script.visits[shown]!;
  const facet = script.facets[visit.facet]!;
  const eye = lookingAt(upOf(script.setups[facet.setup]!));
  const outline = outlineOf(script.mesh, facet, cross(eye.right, eye.up));
  const { left, right } = neighbours(facet, script.gear);
  const where = ({ right: x, up: y }: Zone) =>
    [
      x !== 0 && t.towards(String(x < 0 ? left : right)),
      y !== 0 && (y > 0 ? t.towardsOut : t.towardsDop),
      x === 0 && y === 0 && t.inTheMiddle,
    ].filter((text) => text !== false);
  const advice = zone && adviceFor(facet, zone, script.gear);
  const dial = advice?.dial === 'up' ? t.dialUp : advice?.dial === 'down' ? t.dialDown : '';
  return (
    <Panel title={t.polish} lead={facetName(script, shown)} onClose={onClose}>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))', gap: 6 }}>
        {outline.length === 0 ? (
          <Typography sx={{ fontSize: '1.25rem' }}>{t.levelFacet}</Typography>
        ) : (
          <Box>
            <Typography gutterBottom>{t.polishLead}</Typography>
            <Typography sx={{ textAlign: 'center' }}>{t.towardsOut}</Typography>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
              <Typography sx={{ width: 90, textAlign: 'right' }}>
                {t.towards(String(left))}
              </Typography>
              <Outline points={outline} chosen={zone} onChoose={setZone} name={where} />
              <Typography sx={{ width: 90 }}>{t.towards(String(right))}</Typography>
            </Box>
            <Typography sx={{ textAlign: 'center' }}>{t.towardsDop}</Typography>
          </Box>
        )}
        <Box>
          {zone && advice && (
            <Box role="status" sx={{ mb: 4, '& p': { fontSize: '1.375rem', mb: 2 } }}>
              <Typography sx={{ fontWeight: 600 }}>{t.bright(where(zone))}</Typography>
              {advice.cheat && (
                <Typography>
                  {t.cheatTowards(String(advice.cheat.tooth), advice.cheat.sign)}
                </Typography>
              )}
              {advice.angle && (
                <Typography>
                  {advice.angle === 'flatter' ? t.flatter(dial) : t.steeper(dial)}
                </Typography>
              )}
              {!advice.cheat && !advice.angle && <Typography>{t.middleBright}</Typography>}
            </Box>
          )}
          <Typography variant="h2" gutterBottom>
            {t.scratches}
          </Typography>
          {[...t.scratchHelp, ...(lapOf(script, visit.pass)?.texts ?? [])].map((text) => (
            <Typography key={text} sx={{ mb: 1 }}>
              {text}
            </Typography>
          ))}
        </Box>
      </Box>
    </Panel>
  );
}

/** The facet's outline, with nine places to tap. */
function Outline({
  points,
  chosen,
  onChoose,
  name,
}: {
  points: readonly [number, number][];
  chosen: Zone | undefined;
  onChoose: (zone: Zone) => void;
  name: (zone: Zone) => string[];
}) {
  const { tokens } = useTheme();
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => -y);
  const [x0, y0] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - x0, Math.max(...ys) - y0];
  const size = Math.max(wide, high);
  const margin = 0.08 * size;
  return (
    <Box sx={{ position: 'relative', flexGrow: 1, aspectRatio: '1', maxHeight: '52vh' }}>
      <svg
        viewBox={`${x0 - (size - wide) / 2 - margin} ${y0 - (size - high) / 2 - margin} ${size + 2 * margin} ${size + 2 * margin}`}
        style={{ width: '100%', height: '100%', display: 'block' }}
        aria-hidden
      >
        <polygon
          points={points.map(([x, y]) => `${x},${-y}`).join(' ')}
          fill={tokens.facetLight}
          stroke={tokens.ink}
          strokeWidth={size / 120}
        />
      </svg>
      <Box
        sx={{
          position: 'absolute',
          inset: 0,
          display: 'grid',
          gridTemplateColumns: 'repeat(3, 1fr)',
          gridTemplateRows: 'repeat(3, 1fr)',
        }}
      >
        {zones.map((z) => {
          const is = chosen?.right === z.right && chosen.up === z.up;
          return (
            <Box
              key={`${z.right} ${z.up}`}
              component="button"
              aria-label={t.bright(name(z))}
              aria-pressed={is}
              onClick={() => onChoose(z)}
              sx={{
                border: `1px dashed ${tokens.hairline}`,
                background: is ? tokens.emberWash : 'transparent',
                opacity: is ? 0.7 : 1,
                cursor: 'pointer',
              }}
            />
          );
        })}
      </Box>
    </Box>
  );
}
