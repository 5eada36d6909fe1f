import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../api/client';
import { Sheet } from '../../parts/Sheet';
import { BothSides } from '../../parts/stone/BothSides';
import { upName, upOf } from '../../parts/stone/setups';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { angle, plain } from '../../words/numbers';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { w } from '../../words/words';
import type { BenchState } from '../../log/standing';
import { cheatOf } from '../../parts/work/visitWords';
import { GateActions, GateChecks } from './GateChecks';
import { GlueNow } from './GlueNow';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  onBack: () => void;
}

/** The stone is turned over: checks in order, and what is dialled for the side that comes up. */
export function TransferScreen({ script, state, log, onBack }: Props) {
  const visit = script.visits[state.at]!;
  const no = script.facets[visit.facet]!.setup;
  const setup = script.setups[no]!;
  // What was mended can bring a side up again that was up before.
  const again =
    setup.id === script.visits[0]!.setup || log.state.turns.some((t) => t.setup === setup.id);
  const cutSoFar = Math.max(
    state.step,
    script.facets.findIndex((f) => f.setup === no),
  );
  const open = new Set(
    script.visits.flatMap((v, i) => (v.setup === setup.id && !state.visited[i] ? [v.facet] : [])),
  );
  const facets = script.facets.filter((_, i) => open.has(i));
  return (
    <Box
      sx={{
        height: '100%',
        overflow: 'auto',
        display: 'grid',
        gridTemplateColumns: '1fr 1fr',
        gap: 4,
        p: 4,
      }}
    >
      <Box>
        <Typography variant="h1" component="h2">
          {w.bench.transfer}
        </Typography>
        {setup.up === '' ? (
          <>
            <Typography sx={{ mb: 2 }}>
              {again ? w.bench.comesAgain(setup.name) : w.bench.comesUp(setup.name)}
            </Typography>
            <Box sx={{ height: 220 }}>
              <StoneInWheel
                mesh={script.mesh}
                step={cutSoFar}
                up={upOf(setup)}
                wheel={script.wheel}
                lit={facets.map((f) => f.dial)}
                label={w.drawing.inWheel(setup.name)}
              />
            </Box>
          </>
        ) : (
          <>
            <Typography sx={{ mb: 2 }}>
              {again ? w.bench.transferBack(upName(setup)) : w.bench.transferLead(upName(setup))}
            </Typography>
            <BothSides
              mesh={script.mesh}
              step={cutSoFar}
              wheel={script.wheel}
              height={220}
              first={setup.up === 'crown' ? 'pavilion' : 'crown'}
            />
          </>
        )}
        <Typography variant="h2" sx={{ mt: 3 }}>
          {w.bench.transferDials(setup.up === '' ? setup.name : w.tiers.parts[setup.up]!)}
        </Typography>
        <Dials script={script} facets={facets} />
      </Box>
      <Box>
        <GateChecks script={script} state={state} log={log} />
        <GlueNow {...{ script, log }} setup={visit.setup} since={log.state.turns.at(-1)?.n ?? 0} />
        <GateActions
          go={w.bench.transferGo}
          onGo={() => log.add([{ kind: 'transfer', payload: { setup: visit.setup } }])}
          onBack={onBack}
        />
      </Box>
    </Box>
  );
}

/** The dialled positions of facets, tier by tier. */
function Dials({ script, facets }: { script: BenchScript; facets: BenchScript['facets'] }) {
  const tiers = [...new Set(facets.map((f) => f.tier))];
  return (
    <Sheet head={[w.tiers.tier, w.tiers.angle, w.tiers.indexes]}>
      {tiers.map((t) => {
        const own = facets.filter((f) => f.tier === t);
        return (
          <tr key={t}>
            <td className="figure">{t}</td>
            <td className="figure">
              {own[0]!.hole
                ? w.bench.newHole(own[0]!.hole.no, plain(own[0]!.hole.peg))
                : `${angle(own[0]!.angle)}°`}
            </td>
            <Box component="td" className="figure" sx={{ whiteSpace: 'normal !important' }}>
              {own
                .map((f) =>
                  [f.dial.tooth, cheatOf(f.dial, script.cheater)].filter(Boolean).join(' '),
                )
                .join('  ')}
            </Box>
          </tr>
        );
      })}
    </Sheet>
  );
}
