import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Preform } from '../../api/gluing';
import { Halves } from '../../parts/Halves';
import { Care, Figures } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { gluingWords } from '../../words/gluing';
import { angle, carats, mm } from '../../words/numbers';
import { PreformDrawn } from './PreformDrawn';
import { Rolling } from './Rolling';

const k = gluingWords.preform;

type Way = 'turned' | 'tiers' | 'sawn';

/** How the rough is shaped before the first side is cut. */
export function PreformDesk({ preform: p }: { preform: Preform }) {
  const [way, setWay] = useState<Way>(p.turned && p.round ? 'turned' : 'tiers');
  const ways: Way[] = p.turned ? ['turned', 'tiers', 'sawn'] : ['tiers', 'sawn'];
  return (
    <Halves
      left={
        <Box sx={{ p: 3, height: { xs: 380, md: 'min(40vw, calc(100vh - 240px))' } }}>
          <PreformDrawn preform={p} turned={way === 'turned'} />
        </Box>
      }
    >
      <Box sx={{ p: 4, minWidth: 0 }}>
        <ToggleButtonGroup
          exclusive
          value={way}
          onChange={(_, v: Way | null) => v && setWay(v)}
          aria-label={k.ways}
          sx={{ mb: 3 }}
        >
          {ways.map((v) => (
            <ToggleButton key={v} value={v}>
              {k[v]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {way === 'turned' && p.turned && <Turned preform={p} turned={p.turned} />}
        {way === 'tiers' && <FirstTiers preform={p} />}
        {way === 'sawn' && <Sawn preform={p} />}
      </Box>
    </Halves>
  );
}

function Turned({
  preform: p,
  turned: t,
}: {
  preform: Preform;
  turned: NonNullable<Preform['turned']>;
}) {
  return (
    <>
      {!p.round && <Care>{k.notRound}</Care>}
      <Typography sx={{ mb: 3, maxWidth: 620 }}>
        {k.turnedLead(angle(t.angle), t.tier, angle(t.mains))}
      </Typography>
      <Box sx={{ maxWidth: 460, mb: 4 }}>
        <Figures
          rows={[
            [k.diameter, mm(t.diameter)],
            [k.height, mm(t.height)],
            [k.straight, mm(t.straight)],
            [k.keeps, mm(t.keeps)],
            [k.third, mm(t.third)],
            [k.left, mm(p.side)],
            [k.leftFoot, mm(p.foot)],
            [k.weight, carats(t.carats)],
          ]}
        />
      </Box>
      <Rolling wanted={t.diameter} />
    </>
  );
}

function FirstTiers({ preform: p }: { preform: Preform }) {
  return (
    <>
      <Typography sx={{ mb: 3, maxWidth: 620 }}>{k.tiersLead(p.firstTiers.join(', '))}</Typography>
      <Box sx={{ maxWidth: 460 }}>
        <Figures
          rows={[
            [k.over, k.overSizes(mm(p.overLength), mm(p.overWidth))],
            [k.height, mm(p.height)],
            [k.left, mm(p.side)],
            [k.leftFoot, mm(p.foot)],
          ]}
        />
      </Box>
    </>
  );
}

function Sawn({ preform: p }: { preform: Preform }) {
  if (p.wedges.length === 0) return <Typography>{k.noWedge}</Typography>;
  const saved = p.wedges.reduce((sum, x) => sum + x.saved, 0);
  return (
    <>
      <Typography sx={{ mb: 2, maxWidth: 620 }}>{k.sawnLead(mm(p.kerf), p.fromPiece)}</Typography>
      <Care>{k.sawCaution}</Care>
      <Sheet head={k.sawHead} dense>
        {p.wedges.map((x, i) => (
          <tr key={i}>
            <td className="figure">{x.tier}</td>
            <td className="figure">{angle(x.angle)}°</td>
            <td className="figure">{x.tooth}</td>
            <td className="figure">{mm(x.depth)}</td>
            <td className="figure">{carats(x.saved)}</td>
            <td className="figure">{carats(x.lost)}</td>
          </tr>
        ))}
      </Sheet>
      <Typography sx={{ mt: 2 }}>
        <strong>{k.saved(saved)}</strong>
      </Typography>
    </>
  );
}
