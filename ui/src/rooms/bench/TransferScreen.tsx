import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../api/client';
import { Sheet } from '../../parts/Sheet';
import { BothSides } from '../../parts/stone/BothSides';
import type { Side } from '../../parts/stone/geometry';
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
  const up = script.setups[no]!.up as Side;
  const cutSoFar = script.facets.findIndex((f) => f.setup === no);
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
        <Typography sx={{ mb: 2 }}>{w.bench.transferLead(w.drawing[up])}</Typography>
        <BothSides
          mesh={script.mesh}
          step={cutSoFar}
          wheel={script.wheel}
          height={220}
          first={up === 'crown' ? 'pavilion' : 'crown'}
        />
        <Typography variant="h2" sx={{ mt: 3 }}>
          {w.bench.transferDials(w.tiers.parts[up]!)}
        </Typography>
        <Dials script={script} setup={no} />
      </Box>
      <Box>
        <GateChecks script={script} state={state} log={log} />
        <GlueNow {...{ script, log }} setup={visit.setup} since={0} />
        <GateActions
          go={w.bench.transferGo}
          onGo={() => log.add([{ kind: 'transfer', payload: { setup: visit.setup } }])}
          onBack={onBack}
        />
      </Box>
    </Box>
  );
}

/** The dialled positions of a side, tier by tier. */
function Dials({ script, setup }: { script: BenchScript; setup: number }) {
  const facets = script.facets.filter((f) => f.setup === setup);
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
