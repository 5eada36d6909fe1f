import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Diagram, DraftTier } from '../../api/client';
import { diagramsQuery } from '../../api/queries';
import { Await, Empty, PageHead } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { Profile } from '../../parts/stone/Profile';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { percent } from '../../words/numbers';
import { editingWords } from '../../words/editing';
import { w } from '../../words/words';
import { StoneFigures } from './StoneFigures';
import { useSolved } from './useSolved';

const v = editingWords.variants;
const most = 4;

/** Up to four diagrams side by side, drawn alike, with what differs named. */
export function CompareRoom() {
  const diagrams = useQuery(diagramsQuery);
  const [params, setParams] = useSearchParams();
  const [up, setUp] = useState<'crown' | 'pavilion'>('crown');
  const ids = params.get('ids')?.split(',').filter(Boolean) ?? [];
  const choose = (next: string[]) => setParams({ ids: next.join(',') }, { replace: true });
  return (
    <Await query={diagrams}>
      {(list) => {
        const chosen = ids.flatMap((id) => list.filter((d) => d.id === id)).slice(0, most);
        const rest = list.filter((d) => !chosen.includes(d));
        return (
          <>
            <PageHead title={v.title}>
              <ToggleButtonGroup
                exclusive
                value={up}
                onChange={(_, side: typeof up | null) => side && setUp(side)}
                aria-label={w.drawing.views}
              >
                <ToggleButton value="crown">{w.drawing.crownUp}</ToggleButton>
                <ToggleButton value="pavilion">{w.drawing.pavilionUp}</ToggleButton>
              </ToggleButtonGroup>
              {chosen.length < most && (
                <TextField
                  select
                  label={v.choose}
                  value=""
                  onChange={(e) => choose([...ids, e.target.value])}
                  sx={{ width: 240 }}
                >
                  {rest.map((d) => (
                    <MenuItem key={d.id} value={d.id}>
                      {d.draft.name || w.diagrams.noName}
                    </MenuItem>
                  ))}
                </TextField>
              )}
              <Button component={Link} to="/diagrams">
                {w.rooms.diagrams}
              </Button>
            </PageHead>
            {chosen.length === 0 ? (
              <Empty text={v.none} />
            ) : (
              <Box sx={{ p: 4 }}>
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
                      up={up}
                      onOut={() => choose(ids.filter((id) => id !== d.id))}
                    />
                  ))}
                </Box>
                {chosen.length > 1 && <Differences list={chosen} />}
              </Box>
            )}
          </>
        );
      }}
    </Await>
  );
}

function Column({
  diagram: d,
  up,
  onOut,
}: {
  diagram: Diagram;
  up: 'crown' | 'pavilion';
  onOut: () => void;
}) {
  const { shown: stone } = useSolved(d.draft);
  const name = d.draft.name || w.diagrams.noName;
  return (
    <Box component="section" aria-label={name}>
      <Typography variant="h2" noWrap>
        <Box component={Link} to={`/diagrams/${d.id}`} sx={{ color: 'text.primary' }}>
          {name}
        </Box>
      </Typography>
      {stone && (
        <>
          <Box sx={{ height: 'min(34vw, 320px)' }}>
            <StoneInWheel
              mesh={stone.mesh}
              step={stone.mesh.steps.length - 1}
              up={up}
              wheel={stone.wheel}
              lit={[]}
              label={`${name}: ${w.drawing.inWheel(up)}`}
            />
          </Box>
          <Box sx={{ height: 150 }}>
            <Profile
              mesh={stone.mesh}
              step={stone.mesh.steps.length - 1}
              levels={stone.levels}
              section={stone.towardsTwelve}
              toTheRight={12}
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
