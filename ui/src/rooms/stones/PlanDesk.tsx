import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState, type ReactNode } from 'react';
import type { Assessment, Choices, Settings } from '../../api/client';
import { machineOf, materialsQuery, usualQuery } from '../../api/settings';
import { shelfQuery } from '../../api/kit';
import { assessmentQuery } from '../../api/stones';
import { HoldChoices } from '../../parts/kit/HoldChoices';
import { LadderOf } from '../../parts/kit/Ladder';
import { plannedLighting } from '../../parts/light/lighting';
import { Care } from '../../parts/Page';
import { LapChoices } from '../../parts/work/LapChoices';
import { overLaps, repolished } from '../../parts/work/lapUse';
import { Refusal } from '../../parts/forms/Refusal';
import { angle, mm, um } from '../../words/numbers';
import { dopUpWords } from '../../words/dopUps';
import { fitWords } from '../../words/fit';
import { w } from '../../words/words';
import { StoneDesk } from '../../parts/stone/StoneDesk';
import { useSelectedTier } from '../../parts/stone/useSelectedTier';
import { HabitChoices } from '../../parts/settings/HabitChoices';
import { CheatChoice } from './CheatChoice';
import { Dialled } from './Dialled';
import { DopUps } from './DopUps';
import { FitDialog } from './FitDialog';
import { PlanChoices } from './PlanChoices';
import { PlanFigures } from './PlanFigures';
import { PlanLight } from './PlanLight';

interface Props {
  /** The diagram, and the version that the plan froze; "" is the diagram's present one. */
  diagramId: string;
  revision: string;
  choices: Choices;
  onChange: (c: Choices) => void;
  settings: Settings;
  /** Goes on with a variant that was fitted to the choices; without it nothing is fitted. */
  onFit?: (variant: string, choices: Choices) => void;
  /** It recuts a stone that came back: what was settled with that cannot be chosen. */
  settled?: boolean | undefined;
  /** What stands above the choices. */
  children?: ReactNode;
}

/** A plan being made: the choices, and beside them what they come to. */
export function PlanDesk(props: Props) {
  const { diagramId, revision, choices, onChange, onFit, settings, settled, children } = props;
  const [fitting, setFitting] = useState(false);
  const [selected, select] = useSelectedTier();
  const materials = useQuery(materialsQuery);
  const { data: shelf } = useQuery(shelfQuery);
  const nameOf = (id: string) => shelf?.find((s) => s.item.id === id)?.item.name ?? '';
  const assessed = useQuery(assessmentQuery(diagramId, revision, useDeferredValue(choices)));
  const a = assessed.data;
  const materialOf = (name: string) => materials.data?.find((m) => m.name === name);
  const material = materialOf(choices.material);
  const set = (change: Partial<Choices>) => {
    const next = { ...choices, ...change };
    const passes = repolished(next.passes, material, materialOf(next.material));
    onChange({ ...next, passes });
  };
  const usual = useQuery(usualQuery).data;
  const lighting = a && usual && plannedLighting(a, choices.material, usual);
  return (
    <StoneDesk
      stone={a?.stone ?? undefined}
      problems={[]}
      warnings={a?.warnings ?? []}
      selected={selected}
      onSelect={select}
      light={lighting && { draft: a.draft, lighting }}
      length={a && ((units) => mm(units * a.mmPerUnit))}
    >
      {children}
      <PlanChoices
        choices={choices}
        calipers={a?.calipers.map((c) => c.tier) ?? []}
        settings={settings}
        ranking={a?.ranking ?? []}
        settled={settled}
        onChange={set}
      />
      {onFit && a && lighting && (
        <Button variant="outlined" onClick={() => setFitting(true)} sx={{ mb: 2 }}>
          {fitWords.open}
        </Button>
      )}
      {onFit && fitting && a && lighting && (
        <FitDialog
          {...{ diagramId, choices, settings, lighting }}
          girdle={a.girdleMin}
          onClose={() => setFitting(false)}
          onTake={(variant, fitted) => {
            setFitting(false);
            onFit(variant, fitted);
          }}
        />
      )}
      <Refusal error={assessed.error} />
      {a && <PlanCares assessment={a} choices={choices} />}
      {a && <PlanFigures assessment={a} />}
      {a?.stone && <Dialled {...{ stone: a.stone, held: a.held, selected, select }} />}
      <Box component="section" aria-label={w.stones.habits} sx={{ my: 4 }}>
        <Typography variant="h3" gutterBottom sx={{ mb: 3 }}>
          {w.stones.habits}
        </Typography>
        <HabitChoices habits={choices} settled={settled} onChange={set} />
        {machineOf(settings, choices.machine).cheater !== 'none' && (
          <CheatChoice
            cheats={choices.cheats}
            gear={choices.gear}
            onChange={(cheats) => set({ cheats })}
          />
        )}
      </Box>
      {lighting && (
        <PlanLight assessment={a} lighting={lighting} choices={choices} to={diagramId} />
      )}
      <LapChoices
        head={w.stones.passes}
        laps={choices}
        tiers={a?.laps}
        material={material}
        onChange={set}
      >
        <LadderOf
          material={choices.material}
          passes={choices.passes}
          onTake={(laps) => set({ passes: overLaps(choices.passes, laps, nameOf) })}
        />
      </LapChoices>
      {!settled && (
        <DopUps
          diagramId={diagramId}
          dopUps={choices.dopUps}
          stone={a?.stone ?? undefined}
          onChange={(dopUps) => set({ dopUps })}
        />
      )}
      <HoldChoices
        holds={choices.holds}
        first={choices.firstSide}
        dopUps={choices.dopUps.map((d) => dopUpWords.name(d.tier, d.index))}
        onChange={(holds) => set({ holds })}
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

/** What of the plan needs care on this machine. */
function PlanCares({ assessment: a, choices }: { assessment: Assessment; choices: Choices }) {
  const cheat = angle(a.largestCheat);
  const { pavilion, crown } = a.turns;
  return (
    <>
      {a.largestCheat > 0 && !a.cheater && (
        <Care grave>{w.stones.cheatNoCheater(cheat, um(a.cheatGap))}</Care>
      )}
      {a.largestCheat === 0 && <Typography color="text.secondary">{w.stones.carries}</Typography>}
      {a.largestCheat > 0 && a.cheater && <Care>{w.stones.cheat(cheat)}</Care>}
      {a.proposed && <Care>{w.stones.proposed(a.proposed.teeth)}</Care>}
      {pavilion === crown && pavilion !== 0 && <Care>{w.stones.turn(angle(pavilion))}</Care>}
      {pavilion !== crown && <Care>{w.stones.turns(angle(pavilion), angle(crown))}</Care>}
      {a.obstacles
        .filter((o) => o.code !== 'no-gear-carries')
        .map((o) => (
          <Care key={o.code + o.tierName}>
            <strong>{o.tierName}: </strong>
            {o.message}
          </Care>
        ))}
      {a.noTable && choices.firstSide === 'crown' && <Care>{w.stones.noTable}</Care>}
    </>
  );
}
