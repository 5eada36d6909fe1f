import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Diagram, Settings } from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { defaultMachine, settingsQuery, usualQuery } from '../../api/settings';
import { anglesQuery } from '../../api/solving';
import { TakeOverState } from '../../parts/diagram/TakeOverState';
import { Halves } from '../../parts/Halves';
import { Await, Care, PageHead } from '../../parts/Page';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { editingWords } from '../../words/editing';
import { anglesWords } from '../../words/angles';
import { endedWords } from '../../words/order';
import { Loupe } from '../../parts/stone/Loupe';
import { AngleChoices } from './AngleChoices';
import { bodyOf, firstWish, moves, type AngleWish } from './angleWish';
import { BeforeAfter } from './BeforeAfter';
import { MovedTiers } from './MovedTiers';
import { OpenMeets, RoundingCosts } from './RoundingCosts';
import { plainLighting } from '../../parts/light/lighting';
import { useTakeOver } from '../../parts/diagram/useTakeOver';

const a = anglesWords;

/** The angles of a diagram moved to another material and to what the machine can set. */
export function AnglesRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  const settings = useQuery(settingsQuery);
  const usual = useQuery(usualQuery);
  return (
    <Await query={diagram}>
      {(d) => (
        <Await query={settings}>
          {(s) => (
            <Await query={usual}>
              {(u) => <Angles key={d.id} diagram={d} settings={s} width={u.width} />}
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
  /** The width in mm to begin with. */
  width: number;
}

function Angles({ diagram: d, settings, width }: Props) {
  const machine = defaultMachine(settings);
  const [wish, setWish] = useState<AngleWish>(() => firstWish(d.draft, machine.angleStep, width));
  const [loupe, setLoupe] = useState(false);
  const takeOver = useTakeOver(d, a.taken);
  const usual = useQuery(usualQuery).data;
  const body = bodyOf(d.draft, wish);
  const moved = useQuery(anglesQuery(body));
  const report = moved.isError ? undefined : moved.data;
  const { readable, report: tell } = useReadable();
  const ready = readable && report !== undefined && !moved.isPlaceholderData;
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
          <Button disabled={!ready} onClick={() => report && takeOver.into(report.draft)}>
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
      <Halves
        left={
          <Box sx={{ p: 4 }}>
            {report && usual && (
              <BeforeAfter
                was={d.draft}
                is={report.draft}
                report={report}
                lighting={{
                  ...plainLighting(d.draft, usual),
                  material: wish.material,
                  refractiveIndex: wish.index,
                  width: wish.width,
                }}
              />
            )}
          </Box>
        }
      >
        <Box sx={{ p: 4, minWidth: 0 }}>
          <FormFields value={tell}>
            <AngleChoices
              wish={wish}
              set={(change) => setWish({ ...wish, ...change })}
              step={machine.angleStep}
              byHoles={machine.setting === 'holes'}
              margin={report?.margin}
            />
          </FormFields>
          <Refusal error={moved.error} />
          <TakeOverState of={takeOver} />
          {report?.warnings.map((p, i) => (
            <Care key={i}>
              {p.tierName && <strong>{p.tierName}: </strong>}
              {p.message}
            </Care>
          ))}
          {report && report.ended !== 'complete' && <Care>{endedWords[report.ended]}</Care>}
          {report && wish.step > 0 && <RoundingCosts report={report} chosen={wish.search} />}
          {report && <MovedTiers report={report} />}
          {report && <OpenMeets meets={report.meets} />}
        </Box>
      </Halves>
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
