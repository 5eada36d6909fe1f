import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState, type ReactNode } from 'react';
import { answer, client, type Assessment, type Choices, type Settings } from '../../api/client';
import { materialsQuery } from '../../api/queries';
import { Care } from '../../parts/Page';
import { PassList } from '../../parts/PassList';
import { Refusal } from '../../parts/Refusal';
import { angle, mm } from '../../words/numbers';
import { w } from '../../words/words';
import { StoneDesk } from '../diagrams/StoneDesk';
import { TierTable } from '../diagrams/TierTable';
import { PlanChoices } from './PlanChoices';
import { PlanFigures } from './PlanFigures';

interface Props {
  /** The diagram, and the version that the plan froze; "" is the diagram's present one. */
  diagramId: string;
  revision: string;
  choices: Choices;
  onChange: (c: Choices) => void;
  settings: Settings;
  /** What stands above the choices. */
  children?: ReactNode;
}

/** A plan being made: the choices, and beside them what they come to. */
export function PlanDesk(props: Props) {
  const { diagramId, revision, choices, onChange, settings, children } = props;
  const [selected, setSelected] = useState<string | null>(null);
  const materials = useQuery(materialsQuery);
  const assessed = useAssessment(diagramId, revision, choices);
  const a = assessed.data;
  const set = (change: Partial<Choices>) => onChange({ ...choices, ...change });
  const material = materials.data?.find((m) => m.name === choices.material);
  return (
    <StoneDesk
      stone={a?.stone ?? undefined}
      problems={[]}
      warnings={a?.warnings ?? []}
      selected={selected}
      onSelect={setSelected}
      length={a && ((units) => mm(units * a.mmPerUnit))}
    >
      {children}
      <PlanChoices
        choices={choices}
        calipers={a?.calipers.map((c) => c.tier) ?? []}
        gears={settings.gears}
        onChange={set}
      />
      <Refusal error={assessed.error} />
      {a && <PlanCares assessment={a} choices={choices} settings={settings} />}
      {a && <PlanFigures assessment={a} />}
      {a?.stone && (
        <Box sx={{ my: 4, overflow: 'auto' }}>
          <TierTable stone={a.stone} selected={selected} onSelect={setSelected} />
        </Box>
      )}
      <PassList
        head={w.stones.passes}
        passes={choices.passes}
        onChange={(passes) => set({ passes })}
      />
      {material && (
        <Box component="section" aria-label={w.stones.cautions} sx={{ my: 4 }}>
          {material.cautions.map((c) => (
            <Care key={c}>{c}</Care>
          ))}
        </Box>
      )}
    </StoneDesk>
  );
}

function useAssessment(diagramId: string, revision: string, choices: Choices) {
  const asked = useDeferredValue(choices);
  return useQuery({
    queryKey: ['assess', diagramId, revision, asked],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/assess', { body: { diagramId, revision, choices: asked }, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

/** What of the plan needs care on this machine. */
function PlanCares({
  assessment: a,
  choices,
  settings,
}: {
  assessment: Assessment;
  choices: Choices;
  settings: Settings;
}) {
  const cheat = angle(a.largestCheat);
  return (
    <>
      {a.largestCheat > 0 && !settings.cheater && (
        <Care grave>{w.stones.cheatNoCheater(cheat)}</Care>
      )}
      {a.largestCheat === 0 && <Typography color="text.secondary">{w.stones.carries}</Typography>}
      {a.largestCheat > 0 && settings.cheater && <Care>{w.stones.cheat(cheat)}</Care>}
      {a.turn !== 0 && <Care>{w.stones.turn(angle(a.turn))}</Care>}
      {a.unsettable.map((u) => (
        <Care key={u.tier}>
          {w.stones.notSettable(u.tier, angle(u.angle), angle(u.below), angle(u.above))}
        </Care>
      ))}
      {a.noTable && choices.firstSide === 'crown' && <Care>{w.stones.noTable}</Care>}
    </>
  );
}
