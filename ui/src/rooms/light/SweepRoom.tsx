import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import type { Axis, Diagram, SweepHead, SweptPoint } from '../../api/client';
import { diagramQuery } from '../../api/queries';
import { Await, Care, PageHead } from '../../parts/Page';
import { PickField } from '../../parts/PickField';
import { Refusal } from '../../parts/Refusal';
import { lightWords } from '../../words/light';
import { moment } from '../../words/numbers';
import { ChosenPoint } from './ChosenPoint';
import { FieldMap, type Spot } from './FieldMap';
import { fieldOf, kindSaid, namesOf, placeSaid, type Axes, type Field } from './field';
import { Limits, within, type Limit } from './Limits';
import { LookingFields } from './LookingFields';
import { MapChoice, mapped, type MapOf } from './MapChoice';
import { sweepQuery, sweepsQuery } from './queries';
import { SweepAxes } from './SweepAxes';
import { useLooking } from './useLooking';
import { useSweep } from './useSweep';

/** A diagram at many angles under light. */
export function SweepRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  const sweeps = useQuery(sweepsQuery(id));
  return (
    <Await query={diagram}>
      {(d) => (
        <Await query={sweeps}>
          {(list) => <Sweep key={d.id} diagram={d} kept={list.sweeps} proposed={list.axes} />}
        </Await>
      )}
    </Await>
  );
}

interface Props {
  diagram: Diagram;
  kept: SweepHead[];
  /** What can be swept; nothing of a diagram that cannot be read. */
  proposed: Axis[];
}

function Sweep({ diagram: d, kept, proposed }: Props) {
  const s = lightWords.sweep;
  const { search } = useLocation();
  const { looking, set, ready } = useLooking(d);
  const [axes, setAxes] = useState<Axes | undefined>(
    proposed[0] && proposed[1] && { x: proposed[0], y: proposed[1] },
  );
  const [opened, setOpened] = useState<string | undefined>(kept[0]?.id);
  const sweep = useSweep(d, (head) => setOpened(head.id));
  const { run } = sweep;
  const earlier = useQuery({
    ...sweepQuery(opened ?? ''),
    enabled: opened !== undefined && run.state === 'idle',
  });
  const field: Field | undefined =
    run.state === 'idle' ? earlier.data && fieldOf(earlier.data) : run.field;
  const start = () => axes && sweep.start({ ...looking, ...axes, draft: d.draft });
  return (
    <>
      <PageHead title={s.title(d.draft.name)}>
        <Button component={Link} to={`/diagrams/${d.id}/light${search}`}>
          {s.back}
        </Button>
        {run.state === 'running' ? (
          <Button variant="contained" onClick={sweep.stop}>
            {s.cancel}
          </Button>
        ) : (
          <Button variant="contained" disabled={!axes || !ready} onClick={start}>
            {s.start}
          </Button>
        )}
      </PageHead>
      <Box sx={{ px: 4, pb: 5 }}>
        <Typography color="text.secondary" sx={{ mt: 2 }}>
          {s.lead}
        </Typography>
        <LookingFields looking={looking} set={set} />
        {!axes && <Care grave>{s.unreadable}</Care>}
        {axes && (
          <SweepAxes axes={axes} set={setAxes} proposed={proposed} tiers={namesOf(d.draft)}>
            {kept.length > 0 && run.state !== 'running' && (
              <PickField
                label={s.earlier}
                value={opened ?? ''}
                options={Object.fromEntries(kept.map((k) => [k.id, headSaid(k)]))}
                onChange={(id) => {
                  sweep.clear();
                  setOpened(id);
                }}
                width={200}
              />
            )}
          </SweepAxes>
        )}
        <Refusal error={run.state === 'failed' ? run.error : earlier.error} />
        {run.state === 'running' && (
          <Box sx={{ my: 3 }}>
            <LinearProgress
              variant="determinate"
              value={(100 * run.done) / Math.max(1, run.total)}
              aria-label={s.progress(run.done, run.total)}
            />
            <Typography variant="figures">{s.progress(run.done, run.total)}</Typography>
          </Box>
        )}
        {run.state === 'stopped' && <Typography sx={{ my: 3 }}>{s.stopped}</Typography>}
        {field && <Swept key={run.state === 'idle' ? field.id : 'now'} diagram={d} field={field} />}
      </Box>
    </>
  );
}

/** A sweep in the list of those that are kept. */
function headSaid(k: SweepHead): string {
  const { x, y, material, refractiveIndex } = k.asked;
  const axes = `${kindSaid(x, k.tiers)} × ${kindSaid(y, k.tiers)}, ${x.steps} × ${y.steps}`;
  return `${moment(k.created)}: ${axes}, ${material || `n ${refractiveIndex}`}`;
}

/** The map of a field, its limits, and the point that is chosen. */
function Swept({ diagram: d, field }: { diagram: Diagram; field: Field }) {
  const s = lightWords.sweep;
  const [of, setOf] = useState<MapOf>('return');
  const [limit, setLimit] = useState<Limit>({});
  const [spot, setSpot] = useState<Spot>();
  const width = field.x.steps;
  const whole = field.points.filter((p) => p?.whole);
  const allowed = whole.filter((p) => within(p!, limit));
  const best = allowed.reduce((a, b) => (mapped[of].better(b!, a ?? b!) ? b : a), allowed[0]);
  const chosen = spot && field.points[spot.row * width + spot.column];
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '510px minmax(0, 1fr)' },
        gap: 5,
        mt: 3,
      }}
    >
      <Box>
        {field.moved && <Care>{s.moved}</Care>}
        <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
          <MapChoice of={of} onChange={setOf} weighed={whole.some((p) => p!.carats !== null)} />
          <Button
            disabled={!best}
            onClick={() =>
              best && setSpot({ column: best.no % width, row: Math.floor(best.no / width) })
            }
          >
            {s.best}
          </Button>
        </Box>
        <Typography color="text.secondary" sx={{ mb: 2 }}>
          {mapMeans(of)}
        </Typography>
        <FieldMap
          field={field}
          of={of}
          allowed={(p) => within(p, limit)}
          spot={spot}
          onSpot={setSpot}
        />
        <Typography aria-live="polite" variant="figures">
          {chosen && spotSaid(field, chosen, of)}
        </Typography>
        <Limits limit={limit} set={setLimit} />
        <Typography color="text.secondary">{s.allowed(allowed.length, whole.length)}</Typography>
      </Box>
      {chosen ? (
        <ChosenPoint key={chosen.no} diagram={d} field={field} point={chosen} />
      ) : (
        <Typography color="text.secondary" sx={{ mt: 6 }}>
          {s.choose}
        </Typography>
      )}
    </Box>
  );
}

/** What a map's figure means, where that needs saying. */
const mapMeans = (of: MapOf): string =>
  of === 'carats' || of === 'height' ? lightWords.sweep.means[of] : lightWords.means[of];

/** The chosen point in a line, for those who do not see the map. */
const spotSaid = (field: Field, p: SweptPoint, of: MapOf): string =>
  `${placeSaid(field, p)}: ${p.whole ? mapped[of].said(mapped[of].of(p)) : lightWords.sweep.gone}`;
