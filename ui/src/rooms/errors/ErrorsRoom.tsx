import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type {
  Diagram,
  MachineErrors,
  ToleranceLine,
  ToleranceRequest,
  ToleranceResult,
} from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { ranges } from '../../api/ranges';
import { trialsOf } from '../../api/longWork';
import { machineErrorsQuery, usualQuery } from '../../api/settings';
import { NumberField } from '../../parts/fields/NumberField';
import { Await, Care, PageHead } from '../../parts/Page';
import { numbers, PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { percent, um } from '../../words/numbers';
import { anglesWords } from '../../words/angles';
import { errorWords } from '../../words/errors';
import { w } from '../../words/words';
import { useSolved } from '../../parts/stone/useSolved';
import { ScatteredMeets } from './ScatteredMeets';
import { ProgressLine } from '../../parts/ProgressLine';
import { useLongWork } from '../../parts/useLongWork';

const e = errorWords;
/** Counts of stones to choose from, besides the one that makes the figures steady. */
const counts = [500, 2000, 5000];

type Wish = Omit<ToleranceRequest, 'draft'>;

const wishOf = ({ width, angle, index, depth, trials }: ToleranceRequest): Wish => ({
  width,
  angle,
  index,
  depth,
  trials,
});

/** Trials as they stand after a line: what the first line asked stays. */
const after = (before: ToleranceLine | undefined, line: ToleranceLine): ToleranceLine => ({
  ...line,
  asked: line.asked ?? before?.asked ?? null,
});

/** What the machine's repeatability does to the meets of a diagram. */
export function ErrorsRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  const errors = useQuery(machineErrorsQuery);
  const usual = useQuery(usualQuery);
  return (
    <Await query={diagram}>
      {(d) => (
        <Await query={errors}>
          {(m) => (
            <Await query={usual}>
              {(u) => <Errors key={d.id} diagram={d} machine={m} width={u.width} />}
            </Await>
          )}
        </Await>
      )}
    </Await>
  );
}

interface Props {
  diagram: Diagram;
  machine: MachineErrors;
  /** The width in mm to begin with. */
  width: number;
}

function Errors({ diagram: d, machine, width }: Props) {
  const { angle, index, depth, trials: usual } = machine;
  const [changed, setWish] = useState<Wish>();
  const { state: trials, ...work } = useLongWork(trialsOf(d.id), after);
  const asked = trials?.asked ?? undefined;
  // Trials that are found again show what they were asked.
  const wish = changed ?? (asked ? wishOf(asked) : { width, angle, index, depth, trials: usual });
  const set = (change: Partial<Wish>) => setWish({ ...wish, ...change });
  const { readable, report } = useReadable();
  const stone = useSolved(asked?.draft ?? d.draft).shown;
  const moved = asked !== undefined && JSON.stringify(asked.draft) !== JSON.stringify(d.draft);
  return (
    <>
      <PageHead title={e.title(d.draft.name)} facts={[machine.machine]}>
        <Button component={Link} to={`/diagrams/${d.id}`}>
          {anglesWords.back}
        </Button>
        {work.running ? (
          <Button onClick={work.stop}>{e.cancel}</Button>
        ) : (
          <Button
            variant="contained"
            disabled={!readable}
            onClick={() => work.start({ draft: d.draft, ...wish })}
          >
            {e.start}
          </Button>
        )}
      </PageHead>
      <Box sx={{ p: 4 }}>
        <Typography color="text.secondary" sx={{ maxWidth: 760, mb: 3 }}>
          {e.lead}
        </Typography>
        <FormFields value={report}>
          <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap' }}>
            <NumberField
              label={e.angle}
              unit="°"
              {...ranges.ToleranceRequest.angle}
              value={wish.angle}
              onChange={(angle) => set({ angle })}
            />
            <NumberField
              label={e.index}
              unit="°"
              {...ranges.ToleranceRequest.index}
              value={wish.index}
              onChange={(index) => set({ index })}
            />
            <NumberField
              label={e.depth}
              unit="mm"
              {...ranges.ToleranceRequest.depth}
              value={wish.depth}
              onChange={(depth) => set({ depth })}
            />
            <NumberField
              label={e.width}
              unit="mm"
              {...ranges.ToleranceRequest.width}
              value={wish.width}
              onChange={(width) => set({ width })}
              width={140}
            />
            <PickField
              label={e.trials}
              value={wish.trials}
              options={numbers([...counts, usual])}
              onChange={(trials) => set({ trials })}
              width={110}
            />
          </Box>
        </FormFields>
        {work.running && trials && (
          <ProgressLine
            done={trials.done}
            total={trials.total}
            text={e.progress(trials.done, trials.total)}
          />
        )}
        {work.ended === 'stopped' && <Typography sx={{ my: 3 }}>{e.stopped}</Typography>}
        {work.ended === 'failed' && <Care grave>{e.failed}</Care>}
        <Refusal error={work.error} />
        {trials?.result && moved && <Care>{e.moved}</Care>}
        {trials?.result && stone && (
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr', md: '1.25fr 1fr' },
              gap: 5,
              mt: 3,
            }}
          >
            <ScatteredMeets stone={stone} meets={trials.result.meets} />
            <Reasons result={trials.result} />
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
  // What is under half a per cent has no bar that could be seen.
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
