import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { GluingPage, Mounting } from '../../api/gluing';
import { machineOf, settingsQuery } from '../../api/settings';
import { planRecord, rereadStones } from '../../api/stones';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { useSaveOver } from '../../parts/forms/useSaveOver';
import { Halves } from '../../parts/Halves';
import { useNotice } from '../../parts/notice';
import { Care } from '../../parts/Page';
import { TextLink } from '../../parts/TextLink';
import { gluingWords as g } from '../../words/gluing';
import { AdhesiveList } from './AdhesiveList';
import { DopList } from './DopList';
import { GluedNow } from './GluedNow';
import { GlueSteps } from './GlueSteps';
import { gluesOf, heldWith, isInPlan } from './glues';
import { HeldDrawn } from './HeldDrawn';

/** How a stone is held with one side up: the dop it suits, and what glues it. */
export function HoldDesk({ page, mounting }: { page: GluingPage; mounting: Mounting }) {
  const { summary: s, choices } = page;
  const place = page.mountings.indexOf(mounting);
  const glues = gluesOf(page, mounting);
  const [dopNo, setDop] = useState(Math.max(0, mounting.taken));
  const [glueNo, setGlue] = useState(() =>
    Math.max(
      0,
      glues.findIndex((x) => isInPlan(x, choices.holds[place])),
    ),
  );
  const dop = mounting.dops[dopNo]!;
  const glue = glues[glueNo]!;
  const [asked, setTier] = useState<number>();
  const tier = asked ?? Math.max(0, dop.tightest);
  const settings = useQuery(settingsQuery).data;
  const machine = settings && machineOf(settings, choices.machine);
  const queries = useQueryClient();
  const say = useNotice();
  const saving = useSaveOver(planRecord(s.id), {
    onSaved: async () => {
      await rereadStones(queries);
      say({ text: g.takenNow });
    },
    onTheirs: () => void rereadStones(queries),
  });
  const hold = heldWith(dop, glue);
  const inPlan = mounting.taken === dopNo && isInPlan(glue, choices.holds[place]);
  const take = () => {
    const holds = page.mountings.map(
      (_, i) =>
        choices.holds[i] ?? {
          dop: '',
          dopItem: '',
          adhesive: '',
          adhesiveItem: '',
          tilt: 0,
          towards: 0,
        },
    );
    holds[place] = { ...holds[place]!, ...hold };
    saving.save({ ...choices, holds }, s.version);
  };
  const measured = machine && machine.quillMM > 0 && machine.reachMM > 0;
  return (
    <Halves
      left={
        <Box sx={{ p: 3, position: { md: 'sticky' }, top: 0 }}>
          <Box sx={{ height: { xs: 340, md: 'min(38vw, calc(100vh - 330px))' } }}>
            <HeldDrawn
              mounting={mounting}
              dop={dop}
              tier={tier}
              quill={machine?.quillMM ?? 0}
              reach={machine?.reachMM ?? 0}
            />
          </Box>
          <Tiers mounting={mounting} rooms={dop.rooms} tier={tier} onTier={setTier} />
          {(dop.quills[tier] ?? 0) < 0 && (
            <Care>{g.held.overRim(mounting.tiers[tier]!.tier, -dop.quills[tier]!)}</Care>
          )}
          {machine && !measured && (
            <Typography color="text.secondary" sx={{ mt: 1 }}>
              {g.held.noQuill} <TextLink to="/machine">{g.held.toMachine}</TextLink>
            </Typography>
          )}
        </Box>
      }
    >
      <Box sx={{ p: 4, minWidth: 0 }}>
        <Typography sx={{ mb: 3, maxWidth: 640 }}>{mounting.advice}</Typography>
        <DopList
          dops={mounting.dops}
          chosen={dopNo}
          inPlan={mounting.taken}
          onChoose={(i) => {
            setDop(i);
            setTier(undefined);
          }}
        />
        <AdhesiveList
          glues={glues}
          dop={dop}
          chosen={glueNo}
          inPlan={glues.findIndex((x) => isInPlan(x, choices.holds[place]))}
          onChoose={setGlue}
        />
        <Refusal error={saving.error} />
        {!inPlan && (
          <Button variant="contained" onClick={take} disabled={saving.isPending} sx={{ my: 2 }}>
            {g.take}
          </Button>
        )}
        {glue.sort && (
          <GlueSteps
            key={glue.name}
            stone={s}
            sort={glue.sort}
            minutes={glue.minutes}
            place={place}
          />
        )}
        <GluedNow
          key={`${dop.name} ${glue.name}`}
          stone={s}
          setup={mounting.setup}
          dop={hold.dop}
          adhesive={hold.adhesive}
          minutes={glue.minutes}
          inPlan={inPlan}
        />
        {place === 0 && page.otherFirst.first !== '' && (
          <OtherFirst first={page.otherFirst.first} page={page} />
        )}
      </Box>
      <SaveConflict
        saving={saving}
        mine={[hold.dop, hold.adhesive]}
        linesOf={(theirs) =>
          theirs.plan.choices.holds.map((h) => [h.dop, h.adhesive].filter(Boolean).join(', '))
        }
      />
    </Halves>
  );
}

interface TiersProps {
  mounting: Mounting;
  rooms: readonly number[];
  tier: number;
  onTier: (tier: number) => void;
}

/** The tiers that are cut on this side, with what stays off at each. */
function Tiers({ mounting, rooms, tier, onTier }: TiersProps) {
  return (
    <Box
      role="group"
      aria-label={g.held.tiers}
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 2 }}
    >
      {mounting.tiers.map((t, i) => (
        <Button
          key={t.tier}
          size="small"
          variant={i === tier ? 'contained' : 'outlined'}
          color={rooms[i]! < 0 ? 'error' : 'primary'}
          aria-pressed={i === tier}
          onClick={() => onTier(i)}
          sx={{ minWidth: 0 }}
        >
          {t.tier} {g.held.room(rooms[i]!)}
        </Button>
      ))}
    </Box>
  );
}

/** What the best dops would be if the other side were cut first. */
function OtherFirst({ first, page }: { first: 'pavilion' | 'crown'; page: GluingPage }) {
  const { sides } = page.otherFirst;
  return (
    <Box component="section" aria-label={g.order.head(first)} sx={{ mt: 5 }}>
      <Typography variant="h3" gutterBottom>
        {g.order.head(first)}
      </Typography>
      {sides.map((x) => (
        <Box key={x.up} sx={{ borderBottom: 1, borderColor: 'divider', py: 1 }}>
          <Typography>
            <strong>{g.order.side(x.up, x.name)}</strong> · {g.held.contact(x.contact)} ·{' '}
            {g.held.clears(x.least)}
          </Typography>
          {x.faults.map((f) => (
            <Care key={f.text} grave={f.grave}>
              {f.text}
            </Care>
          ))}
        </Box>
      ))}
      <Button component={Link} to={`/stones/${page.summary.id}?change`} sx={{ mt: 1 }}>
        {g.order.change}
      </Button>
    </Box>
  );
}
