import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import {
  answer,
  client,
  type Diagram,
  type MachineErrors,
  type ToleranceResult,
} from '../../api/client';
import { diagramQuery } from '../../api/queries';
import { NumberField } from '../../parts/NumberField';
import { Await, PageHead } from '../../parts/Page';
import { PickField } from '../../parts/PickField';
import { Refusal } from '../../parts/Refusal';
import { Sheet } from '../../parts/Sheet';
import { percent, um } from '../../words/numbers';
import { judgingWords } from '../../words/judging';
import { w } from '../../words/words';
import { useSolved } from '../diagrams/useSolved';
import { ScatteredMeets } from './ScatteredMeets';
import { useTrials } from './useTrials';

const e = judgingWords.error;
const numbers = { 200: '200', 500: '500', 2000: '2000' };

/** What the machine's repeatability does to the meets of a diagram. */
export function ErrorsRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  const errors = useQuery({
    queryKey: ['machine errors'],
    queryFn: () => answer(client.GET('/api/tolerance')),
  });
  return (
    <Await query={diagram}>
      {(d) => <Await query={errors}>{(m) => <Errors key={d.id} diagram={d} machine={m} />}</Await>}
    </Await>
  );
}

function Errors({ diagram: d, machine }: { diagram: Diagram; machine: MachineErrors }) {
  const [wish, setWish] = useState({
    width: 8,
    angle: machine.angle,
    index: machine.index,
    depth: machine.depth,
    trials: 500,
  });
  const set = (change: Partial<typeof wish>) => setWish({ ...wish, ...change });
  const trials = useTrials();
  const stone = useSolved(d.draft).shown;
  const { run } = trials;
  return (
    <>
      <PageHead title={e.title(d.draft.name)} facts={[machine.machine]}>
        <Button component={Link} to={`/diagrams/${d.id}`}>
          {judgingWords.angles.back}
        </Button>
        {run.state === 'running' ? (
          <Button onClick={trials.stop}>{e.cancel}</Button>
        ) : (
          <Button variant="contained" onClick={() => trials.start({ draft: d.draft, ...wish })}>
            {e.start}
          </Button>
        )}
      </PageHead>
      <Box sx={{ p: 4 }}>
        <Typography color="text.secondary" sx={{ maxWidth: 760, mb: 3 }}>
          {e.lead}
        </Typography>
        <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap' }}>
          <NumberField
            label={e.angle}
            unit="°"
            min={0}
            max={5}
            value={wish.angle}
            onChange={(angle) => set({ angle })}
          />
          <NumberField
            label={e.index}
            unit="°"
            min={0}
            max={5}
            value={wish.index}
            onChange={(index) => set({ index })}
          />
          <NumberField
            label={e.depth}
            unit="mm"
            min={0}
            max={1}
            value={wish.depth}
            onChange={(depth) => set({ depth })}
          />
          <NumberField
            label={e.width}
            unit="mm"
            min={0.1}
            max={500}
            value={wish.width}
            onChange={(width) => set({ width })}
            width={140}
          />
          <PickField
            label={e.trials}
            value={String(wish.trials)}
            options={numbers}
            onChange={(n) => set({ trials: Number(n) })}
            width={110}
          />
        </Box>
        {run.state === 'running' && (
          <Box sx={{ my: 3 }}>
            <LinearProgress
              variant="determinate"
              value={run.total > 0 ? (100 * run.done) / run.total : 0}
              aria-label={e.progress(run.done, run.total)}
            />
            <Typography variant="figures">{e.progress(run.done, run.total)}</Typography>
          </Box>
        )}
        {run.state === 'stopped' && <Typography sx={{ my: 3 }}>{e.stopped}</Typography>}
        <Refusal error={run.state === 'failed' ? run.error : null} />
        {run.state === 'done' && stone && (
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr', md: '1.25fr 1fr' },
              gap: 5,
              mt: 3,
            }}
          >
            <ScatteredMeets stone={stone} meets={run.result.meets} />
            <Reasons result={run.result} />
          </Box>
        )}
      </Box>
    </>
  );
}

/** Which tiers matter, and whether rounding would be noticed beside the machine's own errors. */
function Reasons({ result }: { result: ToleranceResult }) {
  const worst = result.meets[0];
  if (!worst) return null;
  const tiers = result.byTier.filter((t) => t.share >= 0.005).sort((x, y) => y.share - x.share);
  return (
    <Box>
      <Typography variant="h3">{e.tiers}</Typography>
      <Sheet dense head={[w.tiers.tier, e.share, '']}>
        {tiers.map((t) => (
          <tr key={t.name}>
            <td className="figure">{t.name}</td>
            <td className="figure">{percent(t.share)}</td>
            <Box component="td" sx={{ width: '60%', verticalAlign: 'middle !important' }}>
              <Box
                aria-hidden
                sx={{
                  height: 12,
                  width: `${100 * t.share}%`,
                  background: (th) => th.tokens.copper,
                }}
              />
            </Box>
          </tr>
        ))}
      </Sheet>
      <Typography variant="h3" sx={{ mt: 4 }}>
        {e.rounding}
      </Typography>
      <Typography color="text.secondary">{e.roundingLead(um(worst.p50))}</Typography>
      <Sheet dense head={[e.step, e.alone, e.verdict]}>
        {result.rounding.map((r) => (
          <tr key={r.step}>
            <td className="figure">{r.step}°</td>
            <td className="figure">{um(r.gap)}</td>
            <td>{r.noticed ? <strong>{e.noticed}</strong> : e.hidden}</td>
          </tr>
        ))}
      </Sheet>
    </Box>
  );
}
