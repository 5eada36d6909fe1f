import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import type { AxisChoice, Diagram, SweepHead, SweptPoint } from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { Await, Care, PageHead } from '../../parts/Page';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { lightWords } from '../../words/light';
import { moment } from '../../words/numbers';
import { ChosenPoint } from './ChosenPoint';
import { FieldMap, type Spot } from './FieldMap';
import { after, fieldOf, axisText, namesOf, placeText, type Axes, type Field } from './field';
import { Limits, within, type Limit } from './Limits';
import type { Lighting } from '../../parts/light/lighting';
import { useUsualLighting } from '../../parts/light/useUsualLighting';
import { LightingFields } from '../../parts/light/LightingFields';
import { MapChoice, mapped, type MapOf } from './MapChoice';
import { rereadSweeps, sweepQuery, sweepsQuery } from '../../api/light';
import { sweepOf } from '../../api/longWork';
import { ProgressLine } from '../../parts/ProgressLine';
import { useLongWork } from '../../parts/useLongWork';
import { SweepAxes } from './SweepAxes';
import { useLighting } from './useLighting';

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
  /** How the stone is looked at until something else is chosen. */
  usual: Lighting;
  kept: SweepHead[];
  /** What can be swept; nothing of a diagram that cannot be read. */
  proposed: AxisChoice[];
}

function Sweep(props: Omit<Props, 'usual'>) {
  return (
    <Await query={useUsualLighting(props.diagram)}>
      {(usual) => <SweepDesk {...props} usual={usual} />}
    </Await>
  );
}

function SweepDesk({ diagram: d, usual, kept, proposed }: Props) {
  const s = lightWords.sweep;
  const { search } = useLocation();
  const { lighting, set } = useLighting(usual);
  const [axes, setAxes] = useState<Axes | undefined>(
    proposed[0] && proposed[1] && { x: proposed[0].axis, y: proposed[1].axis },
  );
  const [chosen, setChosen] = useState<string>();
  const { state: sweep, ...work } = useLongWork(sweepOf(d.id), after);
  // What was swept last is shown until another one is chosen; one that was kept long ago, or
  // stopped before this page was opened, is in the list or gone.
  const now = chosen === undefined && work.ran ? sweep : undefined;
  const opened = chosen ?? now?.field.id ?? kept[0]?.id;
  const earlier = useQuery({
    ...sweepQuery(opened ?? ''),
    enabled: opened !== undefined && now === undefined,
  });
  const field = now ? now.field : earlier.data && fieldOf(earlier.data);
  useRereadOnceKept(d.id, sweep?.field.id);
  const { readable, report } = useReadable();
  const start = () => {
    if (!axes) return;
    setChosen(undefined);
    work.start({ ...lighting, ...axes, draft: d.draft });
  };
  return (
    <>
      <PageHead title={s.title(d.draft.name)}>
        <Button component={Link} to={`/diagrams/${d.id}/light${search}`}>
          {s.back}
        </Button>
        {work.running ? (
          <Button variant="contained" onClick={work.stop}>
            {s.cancel}
          </Button>
        ) : (
          <Button variant="contained" disabled={!axes || !readable} onClick={start}>
            {s.start}
          </Button>
        )}
      </PageHead>
      <Box sx={{ px: 4, pb: 5 }}>
        <Typography color="text.secondary" sx={{ mt: 2 }}>
          {s.lead}
        </Typography>
        <FormFields value={report}>
          <LightingFields lighting={lighting} set={set} />
          {!axes && <Care grave>{s.unreadable}</Care>}
          {axes && (
            <SweepAxes axes={axes} set={setAxes} proposed={proposed} tiers={namesOf(d.draft)}>
              {kept.length > 0 && !work.running && (
                <PickField
                  label={s.earlier}
                  value={opened ?? ''}
                  options={Object.fromEntries(kept.map((k) => [k.id, sweepText(k)]))}
                  onChange={setChosen}
                  width={200}
                />
              )}
            </SweepAxes>
          )}
        </FormFields>
        <Refusal error={work.error ?? earlier.error} />
        {work.running && sweep && (
          <ProgressLine
            done={sweep.done}
            total={sweep.total}
            text={s.progress(sweep.done, sweep.total)}
          />
        )}
        {work.ran && work.ended === 'stopped' && (
          <Typography sx={{ my: 3 }}>{s.stopped}</Typography>
        )}
        {work.ran && work.ended === 'failed' && <Care grave>{s.failed}</Care>}
        {field && <Swept key={now ? 'now' : field.id} diagram={d} field={field} />}
      </Box>
    </>
  );
}

/** Reads the list of a diagram's sweeps anew when one has been kept. */
function useRereadOnceKept(diagram: string, kept: string | undefined): void {
  const queries = useQueryClient();
  useEffect(() => {
    if (kept !== undefined) void rereadSweeps(queries, diagram);
  }, [queries, diagram, kept]);
}

/** A sweep in the list of those that are kept. */
function sweepText(k: SweepHead): string {
  const { x, y, material, refractiveIndex } = k.asked;
  const axes = `${axisText(x, k.tiers)} × ${axisText(y, k.tiers)}, ${x.steps} × ${y.steps}`;
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
          {chosen && spotText(field, chosen, of)}
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
const spotText = (field: Field, p: SweptPoint, of: MapOf): string =>
  `${placeText(field, p)}: ${p.whole ? mapped[of].format(mapped[of].of(p)) : lightWords.sweep.gone}`;
