import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import type { Choices, FitReport, FittedStone, Settings } from '../../api/client';
import { varyDiagram } from '../../api/diagrams';
import { figuresQuery, type Lighting } from '../../api/light';
import { ranges } from '../../api/ranges';
import { machineOf } from '../../api/settings';
import { fitQuery } from '../../api/stones';
import { SideBySideSheet } from '../../parts/SideBySideSheet';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { LightPicture } from '../../parts/light/LightPicture';
import { faceUp } from '../../parts/light/lighting';
import { useLook } from '../../parts/light/useLook';
import { Care } from '../../parts/Page';
import { StepField } from '../../parts/settings/StepField';
import { fitWords as f } from '../../words/fit';
import { angle, carats, mm, percent, signed, span, um } from '../../words/numbers';
import { w } from '../../words/words';

interface Props {
  diagramId: string;
  choices: Choices;
  settings: Settings;
  /** The girdle in mm to begin with, and how the planned stone is looked at. */
  girdle: number;
  lighting: Lighting;
  onClose: () => void;
  /** The variant that was made, and the plan's choices for it. */
  onTake: (variant: string, choices: Choices) => void;
}

/** A girdle of a few tenths of a millimetre is what most leave. */
const usualGirdle = 0.3;

/** A diagram fitted to material, protractor, gears, girdle and first side at once: before and after. */
export function FitDialog(props: Props) {
  const { settings, lighting, onClose, onTake } = props;
  const [choices, setChoices] = useState(props.choices);
  const [step, setStep] = useState(machineOf(settings, props.choices.machine).angleStep);
  const [girdle, setGirdle] = useState(
    props.girdle >= 0.2 && props.girdle <= 1 ? Math.round(props.girdle * 100) / 100 : usualGirdle,
  );
  // Until somebody says otherwise angles are moved only where the diagram would lose light.
  const [move, setMove] = useState<boolean | null>(null);
  const set = (change: Partial<Choices>) => setChoices({ ...choices, ...change });
  const { readable, report } = useReadable();
  const ask = useDeferredValue({ diagramId: props.diagramId, choices, step, girdle, move });
  const fitted = useQuery({ ...fitQuery(ask), placeholderData: keepPreviousData });
  const vary = useMutation(varyDiagram);
  const r = fitted.data;
  const take = (is: FitReport) =>
    vary.mutate(
      {
        id: props.diagramId,
        draft: {
          ...is.after.draft,
          name: f.name(is.after.draft.name, choices.material),
          width: choices.size.basis === 'width' ? String(choices.size.mm) : '',
        },
      },
      {
        onSuccess: (v) =>
          onTake(v.id, { ...choices, gear: is.gear ? is.gear.teeth : choices.gear }),
      },
    );
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>{f.title}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary">{f.lead}</Typography>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, pt: 3, mb: 2 }}>
          <FormFields value={report}>
            <MaterialField
              label={w.stones.material}
              value={choices.material}
              onChange={(material) => set({ material })}
              width={210}
            />
            {machineOf(settings, choices.machine).setting === 'protractor' && (
              <StepField value={step} onChange={setStep} />
            )}
            <NumberField
              label={f.girdle}
              unit="mm"
              {...ranges.FitRequest.girdle}
              value={girdle}
              onChange={setGirdle}
              width={130}
            />
            <PickField
              label={w.stones.firstSide}
              value={choices.firstSide}
              options={{ pavilion: w.tiers.parts.pavilion!, crown: w.tiers.parts.crown! }}
              onChange={(firstSide) => set({ firstSide })}
              width={140}
            />
          </FormFields>
          <FormControlLabel
            control={
              <Checkbox
                checked={move ?? r?.moved ?? false}
                onChange={(e) => setMove(e.target.checked)}
              />
            }
            label={f.move}
          />
        </Box>
        {fitted.isFetching && <LinearProgress aria-label={w.common.loading} />}
        <Refusal error={fitted.error ?? vary.error} />
        {r && !fitted.isError && (
          <Outcome report={r} lighting={{ ...lighting, material: choices.material }} />
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!r || !readable || fitted.isFetching || vary.isPending}
          onClick={() => r && take(r)}
        >
          {f.take}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Outcome({ report: r, lighting }: { report: FitReport; lighting: Lighting }) {
  const moved = r.tiers.filter((t) => Math.abs(t.from - t.to) > 1e-9);
  const was = useQuery(figuresQuery(r.before.draft, lighting)).data;
  const is = useQuery(figuresQuery(r.after.draft, lighting)).data;
  const row = (name: string, of: (s: FittedStone) => string): [string, string, string] => [
    name,
    of(r.before),
    of(r.after),
  ];
  const lit = (name: 'return' | 'window' | 'headShadow'): [string, string] => [
    was ? percent(was[name]) : '…',
    is ? percent(is[name]) : '…',
  ];
  const rows: [string, string, string][] = [
    [f.light, ...lit('return')],
    [f.window, ...lit('window')],
    [f.shadow, ...lit('headShadow')],
    row(f.margin, (s) => (s.margin === null ? '–' : `${signed(s.margin)}°`)),
    row(f.unsettable, (s) => String(s.unsettable)),
    row(f.gap, (s) => (s.gap < 0.05 ? um(0) : um(s.gap))),
    row(f.weight, (s) => carats(s.carats)),
    row(f.height, (s) => mm(s.height)),
    row(f.girdleRow, (s) => (s.girdleMax > 0 ? span(s.girdleMin, s.girdleMax, mm) : '–')),
  ];
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
        gap: 4,
        alignItems: 'start',
      }}
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
        <Seen name={f.before} stone={r.before} lighting={lighting} />
        <Seen name={f.after} stone={r.after} lighting={lighting} />
        <Box sx={{ gridColumn: '1 / -1' }}>
          <Typography variant="h3">{f.moved}</Typography>
          <Typography className="figure">
            {moved.length === 0
              ? f.unmoved
              : moved.map((t) => f.angle(t.name, angle(t.from), angle(t.to))).join(' · ')}
          </Typography>
          <GearOf report={r} />
          {r.warnings.map((p, i) => (
            <Care key={i}>
              {p.tierName && <strong>{p.tierName}: </strong>}
              {p.message}
            </Care>
          ))}
        </Box>
      </Box>
      <SideBySideSheet sides={[f.before, f.after]} rows={rows} />
    </Box>
  );
}

function GearOf({ report: r }: { report: FitReport }) {
  if (!r.gear) return null;
  const { teeth, largestCheat, turn } = r.gear;
  if (largestCheat === 0) {
    return <Typography>{f.gear(teeth, turn === 0 ? '' : angle(turn))}</Typography>;
  }
  return (
    <Care grave={!r.cheater}>
      {f.cheats(teeth, angle(largestCheat))} {!r.cheater && f.noCheater(um(r.cheatGap))}
    </Care>
  );
}

interface SeenProps {
  name: string;
  stone: FittedStone;
  lighting: Lighting;
}

/** A stone as an eye will see it. */
function Seen({ name, stone, lighting }: SeenProps) {
  const [tilt, setTilt] = useState(faceUp);
  const lit = useLook({ draft: stone.draft, lighting, show: 'colour', tilt });
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Box sx={{ height: 230 }}>
        <LightPicture name={name} stone={lit} tilt={tilt} onTilt={setTilt} />
      </Box>
      <Typography component="figcaption" sx={{ textAlign: 'center' }}>
        {name}
      </Typography>
    </Box>
  );
}
