import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useTheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import type { Pass } from '../../api/client';
import { ladderQuery, shelfQuery, type Ladder, type Rung } from '../../api/kit';
import { kitWords as k } from '../../words/kit';
import { micron, plain, times } from '../../words/numbers';
import { Care } from '../Page';

interface Props {
  material: string;
  /** The passes; none are those that a plan would begin with. */
  passes: Pass[];
  /** Takes another ladder of the shelf's laps, which are named by their IDs. */
  onTake?: (laps: string[]) => void;
}

/** The laps of a stone in order: how deep each one's damage goes, and what the next must take off. */
export function LadderOf({ material, passes, onTake }: Props) {
  const { data: ladder } = useQuery(ladderQuery(material, passes));
  const { data: shelf } = useQuery(shelfQuery);
  if (!ladder) return null;
  const nameOf = (id: string) => shelf?.find((s) => s.item.id === id)?.item.name ?? '–';
  const taken = ladder.rungs.map((r) => r.pass.lapItem);
  const other = ladder.best.length > 0 && ladder.best.join() !== taken.join();
  const faulty = ladder.rungs.some((r) => r.wrong !== '');
  return (
    <Box component="section" aria-label={k.ladder.head}>
      <Rungs ladder={ladder} />
      {ladder.rungs.map((r) => (
        <Cares key={r.pass.id} rung={r} />
      ))}
      {ladder.missing.length > 0 && (
        <Care grave>
          {k.ladder.missing(
            ladder.missing.map((g) => k.ladder.grain(micron(g.grain), plain(g.mesh))).join(', '),
          )}
        </Care>
      )}
      {faulty && other && ladder.sound && (
        <Typography>
          {k.ladder.better(ladder.best.map(nameOf).join(' → '))}{' '}
          {onTake && (
            <Button size="small" onClick={() => onTake(ladder.best)}>
              {k.ladder.take}
            </Button>
          )}
        </Typography>
      )}
    </Box>
  );
}

/** What is wrong with a step, and what of its lap harms the stone. */
function Cares({ rung: r }: { rung: Rung }) {
  const name = r.pass.lap || r.pass.name;
  return (
    <>
      {r.wrong && (
        <Care grave>
          <strong>{name}: </strong>
          {r.wrong}
        </Care>
      )}
      {r.cares.map((c) => (
        <Care key={c}>
          <strong>{name}: </strong>
          {c}
          {c === r.cares[0] && r.ways[0] && ` ${r.ways[0].text}`}
        </Care>
      ))}
    </>
  );
}

/** Each lap with the section of the surface that it leaves: the teeth are its damage, to scale. */
function Rungs({ ladder }: { ladder: Ladder }) {
  const deepest = Math.max(...ladder.rungs.map((r) => r.leavesHigh), 1);
  return (
    <Box
      component="ol"
      aria-label={k.ladder.label}
      sx={{ display: 'flex', p: 0, m: 0, my: 3, pt: 4, listStyle: 'none', overflow: 'auto' }}
    >
      {ladder.rungs.map((r, i) => (
        <Box
          component="li"
          key={r.pass.id}
          sx={{ flex: '1 1 0', minWidth: 130, borderTop: 1, borderColor: 'text.primary' }}
        >
          <Damage rung={r} deepest={deepest}>
            {i > 0 && r.ratio > 0 && (
              <Typography
                variant="figures"
                sx={{
                  position: 'absolute',
                  left: -18,
                  top: -13,
                  px: 1,
                  bgcolor: 'background.default',
                  border: 1,
                  borderColor: r.wrong ? 'error.main' : 'text.primary',
                  color: r.wrong ? 'error.main' : 'text.primary',
                  fontSize: '0.8125rem',
                }}
              >
                {times(r.ratio)}
              </Typography>
            )}
          </Damage>
          <Typography sx={{ fontWeight: 600 }}>{r.pass.lap || r.pass.name}</Typography>
          {r.pass.compound && <Typography variant="body2">{r.pass.compound}</Typography>}
          <Typography variant="body2" color="text.secondary">
            {r.grain > 0 ? micron(r.grain) : k.ladder.unknown}
            <br />
            {i === 0 ? k.ladder.first : r.takesOff > 0 && k.ladder.takesOff(micron(r.takesOff))}
            <br />
            {r.grain > 0 && k.ladder.leaves(micron(r.leavesLow), micron(r.leavesHigh))}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

/** The surface in section. Depths are drawn by their square root: a polish would not be seen else. */
function Damage(props: { rung: Rung; deepest: number; children: ReactNode }) {
  const { rung, deepest, children } = props;
  const { tokens: t } = useTheme();
  const depth = (µm: number) => 34 * Math.sqrt(µm / deepest);
  const teeth = 12;
  const saw = (µm: number) =>
    Array.from({ length: teeth }, (_, i) => {
      const x = (i * 120) / teeth;
      // Every other tooth is as deep as can be.
      const low = depth(µm) * (i % 2 === 0 ? 1 : 0.7);
      return `L${x + 60 / teeth} ${low}L${x + 120 / teeth} 0`;
    }).join('');
  return (
    <Box sx={{ position: 'relative', height: 42 }}>
      <svg width="100%" height={42} viewBox="0 0 120 42" preserveAspectRatio="none" aria-hidden>
        <rect width={120} height={depth(rung.leavesHigh)} fill={t.emberWash} opacity={0.5} />
        <path
          d={`M0 0${saw(rung.leaves)}Z`}
          fill={t.rough}
          stroke={t.ink}
          strokeWidth={0.8}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      {children}
    </Box>
  );
}
