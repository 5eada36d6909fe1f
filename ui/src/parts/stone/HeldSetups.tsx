import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Assessment, StoneView } from '../../api/client';
import { dopUpWords as t } from '../../words/dopUps';
import { angle, signed } from '../../words/numbers';
import { vec } from './geometry';
import { StoneInWheel } from './StoneInWheel';

interface Props {
  stone: StoneView;
  held: Assessment['held'];
}

/** A stone as it is held, one time after the other: what faces the eye, and what is dialled then. */
export function HeldSetups({ stone, held }: Props) {
  return (
    <Box
      component="section"
      aria-label={t.held}
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(auto-fill, minmax(240px, 1fr))',
        gap: 3,
        my: 4,
      }}
    >
      {held.map((d, i) => (
        <Box key={d.name} role="group" aria-label={t.one(i + 1, d.name)}>
          <Typography variant="h3">{t.one(i + 1, d.name)}</Typography>
          <Box sx={{ height: 230 }}>
            <StoneInWheel
              mesh={stone.mesh}
              up={{ right: vec(d.right), up: vec(d.above) }}
              wheel={stone.wheel}
              lit={d.tiers.flatMap((tier) => tier.dials)}
              label={t.seen(d.name)}
              pixel={0.6}
            />
          </Box>
          {d.tiers.map((tier) => (
            <Typography key={`${tier.tier} ${tier.angle}`} className="figure">
              <strong>{tier.tier}</strong>{' '}
              {tier.dials.length === 0
                ? t.level
                : t.dialled(angle(tier.angle), tier.dials.map(dialOf).join(' '))}
            </Typography>
          ))}
        </Box>
      ))}
    </Box>
  );
}

const dialOf = (d: { tooth: number; cheat: number }): string =>
  d.cheat === 0 ? String(d.tooth) : `${d.tooth} (${signed(d.cheat)}°)`;
