import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answer, client, type Diagram, type Material, type Settings } from '../../api/client';
import { diagramQuery, materialsQuery, settingsQuery } from '../../api/queries';
import { Await, Care, PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { editingWords } from '../../words/editing';
import { judgingWords } from '../../words/judging';
import { Loupe } from '../diagrams/Loupe';
import { defaultMachine } from '../machine/useSaveSettings';
import { AngleChoices } from './AngleChoices';
import { bodyOf, firstWish, moves, type AngleWish } from './angleWish';
import { BeforeAfter } from './BeforeAfter';
import { MovedTiers } from './MovedTiers';
import { OpenMeets, RoundingCosts } from './RoundingCosts';
import { useTakeOver } from './useTakeOver';

const a = judgingWords.angles;

/** The angles of a diagram moved to another material and to what the machine can set. */
export function AnglesRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  const materials = useQuery(materialsQuery);
  const settings = useQuery(settingsQuery);
  return (
    <Await query={diagram}>
      {(d) => (
        <Await query={settings}>
          {(s) => (
            <Await query={materials}>
              {(m) => <Angles key={d.id} diagram={d} settings={s} materials={m} />}
            </Await>
          )}
        </Await>
      )}
    </Await>
  );
}

interface Props {
  diagram: Diagram;
  settings: Settings;
  materials: Material[];
}

function Angles({ diagram: d, settings, materials }: Props) {
  const machine = defaultMachine(settings);
  const [wish, setWish] = useState<AngleWish>(() => firstWish(d.draft, machine.angleStep));
  const [loupe, setLoupe] = useState(false);
  const takeOver = useTakeOver(d);
  const body = bodyOf(d.draft, wish);
  const moved = useQuery({
    queryKey: ['angles', body],
    queryFn: ({ signal }) => answer(client.POST('/api/angles', { body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 60_000,
  });
  const report = moved.isError ? undefined : moved.data;
  const ready = report !== undefined && !moved.isPlaceholderData;
  const name = moves(d.draft, wish)
    ? a.variant(d.draft.name, String(wish.index))
    : a.rounded(d.draft.name, wish.step);
  return (
    <>
      <PageHead title={a.title(d.draft.name)}>
        <Button component={Link} to={`/diagrams/${d.id}`}>
          {a.back}
        </Button>
        <Button disabled={!ready} onClick={() => setLoupe(true)}>
          {editingWords.loupe.open}
        </Button>
        {!d.starter && (
          <Button disabled={!ready} onClick={() => report && takeOver.into(report.draft, a.taken)}>
            {a.take}
          </Button>
        )}
        <Button
          variant="contained"
          disabled={!ready || takeOver.busy}
          onClick={() => report && takeOver.asVariant({ ...report.draft, name })}
        >
          {a.keep}
        </Button>
      </PageHead>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '44% minmax(0, 1fr)' },
          minHeight: { md: 'calc(100vh - 110px)' },
        }}
      >
        <Box sx={{ p: 4, borderRight: { md: 1 }, borderColor: { md: 'divider' } }}>
          {report && <BeforeAfter was={d.draft} is={report.draft} report={report} wish={wish} />}
        </Box>
        <Box sx={{ p: 4, minWidth: 0 }}>
          <AngleChoices
            wish={wish}
            set={(change) => setWish({ ...wish, ...change })}
            materials={materials}
            step={machine.angleStep}
            margin={report?.margin}
          />
          <Refusal error={moved.error ?? takeOver.error} />
          {report?.warnings.map((p, i) => (
            <Care key={i}>
              {p.tierName && <strong>{p.tierName}: </strong>}
              {p.message}
            </Care>
          ))}
          {report && report.ended !== 'complete' && <Care>{judgingWords.ended[report.ended]}</Care>}
          {report && wish.step > 0 && <RoundingCosts report={report} chosen={wish.search} />}
          {report && <MovedTiers report={report} />}
          {report && <OpenMeets meets={report.meets} />}
        </Box>
      </Box>
      {loupe && report && (
        <Loupe
          draft={report.draft}
          exact={report.exact}
          at={wish.width}
          gears={[]}
          onClose={() => setLoupe(false)}
        />
      )}
    </>
  );
}
