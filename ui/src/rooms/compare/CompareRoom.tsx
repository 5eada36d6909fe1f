import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { ApiProblem, type Diagram, type DiagramPage, type DraftTier } from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { usualQuery } from '../../api/settings';
import { faceUp, plainLighting, type Lighting, type Show } from '../../parts/light/lighting';
import { Await, Empty, PageHead } from '../../parts/Page';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { Profile } from '../../parts/stone/Profile';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { percent } from '../../words/numbers';
import { editingWords } from '../../words/editing';
import { lightWords } from '../../words/light';
import { w } from '../../words/words';
import { LightColumn, LightDifferences, type CommonView } from './CompareLight';
import { LightingFields } from '../../parts/light/LightingFields';
import { PickDiagram } from '../../parts/diagram/PickDiagram';
import { StoneFigures } from '../../parts/stone/StoneFigures';
import { useSolved } from '../../parts/stone/useSolved';

const v = editingWords.variants;
const most = 4;

type View = 'crown' | 'pavilion' | 'light';

/** Up to four diagrams side by side, drawn alike, with what differs named. */
export function CompareRoom() {
  const [params, setParams] = useSearchParams();
  const [view, setView] = useState<View>('crown');
  const [show, setShow] = useState<Show>('pale');
  const [tilt, setTilt] = useState(faceUp);
  const [lighting, setLighting] = useState<Lighting>();
  const ids = (params.get('ids')?.split(',').filter(Boolean) ?? []).slice(0, most);
  const usual = useQuery(usualQuery).data;
  const asked = useQueries({ queries: ids.map(diagramQuery) });
  const all = together(asked);
  // At once: a list that is opened again must not still offer what was just taken from it, and
  // move under the hand when that goes.
  const choose = (next: string[]) =>
    setParams({ ids: next.join(',') }, { replace: true, flushSync: true });
  return (
    <Await query={all}>
      {(chosen) => {
        // One material for all: what the first was drawn for, until another is chosen.
        const common = lighting ?? (chosen[0] && usual && plainLighting(chosen[0].draft, usual));
        return (
          <>
            <PageHead title={v.title}>
              <ToggleButtonGroup
                exclusive
                value={view}
                onChange={(_, v: View | null) => v && setView(v)}
                aria-label={w.drawing.views}
              >
                <ToggleButton value="crown">{w.drawing.crownUp}</ToggleButton>
                <ToggleButton value="pavilion">{w.drawing.pavilionUp}</ToggleButton>
                <ToggleButton value="light">{lightWords.view}</ToggleButton>
              </ToggleButtonGroup>
              {chosen.length < most && (
                <PickDiagram label={v.choose} without={ids} onPick={(id) => choose([...ids, id])} />
              )}
              <Button component={Link} to="/diagrams">
                {w.rooms.diagrams}
              </Button>
            </PageHead>
            <Refusal error={all.error} />
            {chosen.length === 0 ? (
              <Empty text={v.none} />
            ) : (
              <Box sx={{ p: 4 }}>
                {view === 'light' && common && (
                  <LightingFields
                    lighting={common}
                    set={(change) => setLighting({ ...common, ...change })}
                  >
                    <PickField
                      label={lightWords.show}
                      value={show}
                      options={lightWords.shows}
                      onChange={setShow}
                      width={190}
                    />
                  </LightingFields>
                )}
                <Box
                  sx={{
                    display: 'grid',
                    gridTemplateColumns: `repeat(${chosen.length}, minmax(0, 1fr))`,
                    gap: 6,
                  }}
                >
                  {chosen.map((d) => (
                    <Column
                      key={d.id}
                      diagram={d}
                      view={view}
                      light={common && { lighting: common, show, tilt, onTilt: setTilt }}
                      onOut={() => choose(ids.filter((id) => id !== d.id))}
                    />
                  ))}
                </Box>
                {chosen.length > 1 && view === 'light' && common && (
                  <LightDifferences list={chosen} lighting={common} />
                )}
                {chosen.length > 1 && <Differences list={chosen} />}
              </Box>
            )}
          </>
        );
      }}
    </Await>
  );
}

/**
 * Several answers as one: those that are there while others are on their way. One that is gone is
 * left out.
 */
function together(asked: UseQueryResult<DiagramPage>[]) {
  const gone = (q: UseQueryResult) =>
    q.error instanceof ApiProblem && q.error.problem.status === 404;
  const wanted = asked.filter((q) => !gone(q));
  const there = wanted.flatMap((q) => q.data ?? []);
  const failed = wanted.find((q) => q.isError && !q.data);
  return {
    data: there.length > 0 || wanted.length === 0 ? there : undefined,
    isError: failed !== undefined,
    error: failed?.error ?? null,
    refetch: () => Promise.all(asked.map((q) => q.refetch())),
  };
}

function Column({
  diagram: d,
  view,
  light,
  onOut,
}: {
  diagram: Diagram;
  view: View;
  light: CommonView | undefined;
  onOut: () => void;
}) {
  const { shown: stone, whole } = useSolved(d.draft);
  const name = d.draft.name || w.diagrams.noName;
  return (
    <Box component="section" aria-label={name}>
      <Typography variant="h2" noWrap>
        <Box component={Link} to={`/diagrams/${d.id}`} sx={{ color: 'text.primary' }}>
          {name}
        </Box>
      </Typography>
      {view === 'light' && light && whole && <LightColumn draft={whole} view={light} />}
      {stone && view !== 'light' && (
        <>
          <Box sx={{ height: 'min(34vw, 320px)' }}>
            <StoneInWheel
              mesh={stone.mesh}
              up={view}
              wheel={stone.wheel}
              label={`${name}: ${w.drawing.inWheel(view)}`}
            />
          </Box>
          <Box sx={{ height: 150 }}>
            <Profile
              mesh={stone.mesh}
              levels={stone.levels}
              section={stone.towardsTwelve}
              length={(units) => percent(units / stone.measures.width)}
            />
          </Box>
          <StoneFigures stone={stone} />
        </>
      )}
      <Button onClick={onOut} sx={{ mt: 2 }}>
        {v.take(name)}
      </Button>
    </Box>
  );
}

/** Tier by tier what is not the same in all of them. */
function Differences({ list }: { list: Diagram[] }) {
  const names = [...new Set(list.flatMap((d) => d.draft.tiers.map((t) => t.name)))];
  const rows: [label: string, cells: string[]][] = [];
  const compare = (label: string, of: (d: Diagram) => string) => {
    const cells = list.map(of);
    if (new Set(cells).size > 1) rows.push([label, cells]);
  };
  compare(w.diagrams.gear, (d) => d.draft.gear);
  compare(w.diagrams.index, (d) => d.draft.refractiveIndex);
  for (const name of names) {
    const of = (pick: (t: DraftTier) => string) => (d: Diagram) => {
      const t = d.draft.tiers.find((o) => o.name === name);
      return t ? pick(t) : v.missing;
    };
    compare(
      v.angle(name),
      of((t) => `${t.angle}°`),
    );
    compare(
      v.indexes(name),
      of((t) => t.indexes),
    );
    compare(
      v.stop(name),
      of((t) => t.stop),
    );
  }
  return (
    <Box component="section" aria-label={v.differences} sx={{ mt: 6 }}>
      <Typography variant="h3" gutterBottom>
        {v.differences}
      </Typography>
      {rows.length === 0 ? (
        <Typography>{v.same}</Typography>
      ) : (
        <Sheet dense head={['', ...list.map((d) => d.draft.name)]}>
          {rows.map(([label, cells]) => (
            <tr key={label}>
              <td>{label}</td>
              {cells.map((c, i) => (
                <Box
                  key={i}
                  component="td"
                  className="figure"
                  sx={{ whiteSpace: 'normal !important' }}
                >
                  {c}
                </Box>
              ))}
            </tr>
          ))}
        </Sheet>
      )}
    </Box>
  );
}
