import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Adaptation } from '../../../api/client';
import { Care } from '../../../parts/Page';
import { Sheet } from '../../../parts/Sheet';
import { carats, mm, percent, signed, thousandths, um } from '../../../words/numbers';
import { wheelWords as t } from '../../../words/wheel';

const figures = ['carats', 'height', 'crown', 'girdle', 'table', 'return', 'window'] as const;

const write = (figure: (typeof figures)[number]): ((v: number) => string) =>
  figure === 'carats' ? carats : figure === 'return' || figure === 'window' ? percent : mm;

/** A gap that a loupe shows, in µm. */
const seen = 10;

/** What follows of changes at the wheel: figures before and after, and what finished facets have to do. */
export function Follows({ of }: { of: Adaptation }) {
  const cares = of.tiers.flatMap((tier) => [
    ...(tier.again ? [t.againTier(tier.name, tier.cut)] : []),
    ...(tier.deeper > 0 ? [t.deeperTier(tier.name, thousandths(tier.deeper))] : []),
    ...(tier.tooDeep > 0 ? [t.tooDeepTier(tier.name, thousandths(tier.tooDeep))] : []),
  ]);
  const changed = new Set(of.changes.map((c) => c.tier));
  const margins = of.tiers.filter((tier) => tier.margin !== null && changed.has(tier.name));
  return (
    <Box role="status" aria-label={t.follows}>
      <Sheet head={[t.follows, t.planned, t.so]} dense>
        {figures.map((f) => (
          <tr key={f} data-figure={f}>
            <td>{t.figures[f]}</td>
            <td className="figure">{write(f)(of.before[f])}</td>
            <Box
              component="td"
              className="figure"
              sx={{
                color: write(f)(of.before[f]) === write(f)(of.after[f]) ? '' : 'secondary.main',
                fontWeight: 600,
              }}
            >
              {write(f)(of.after[f])}
            </Box>
          </tr>
        ))}
      </Sheet>
      <Typography sx={{ fontWeight: 600, mt: 2 }}>
        {of.gap > seen ? t.gap(um(of.gap)) : t.gapNone}
      </Typography>
      {margins.map((tier) => (
        <Typography key={tier.name}>
          {tier.margin! < 0
            ? t.leaks(tier.name, signed(tier.margin!))
            : t.marginOf(tier.name, signed(tier.margin!))}
        </Typography>
      ))}
      {cares.map((text) => (
        <Care key={text}>{text}</Care>
      ))}
    </Box>
  );
}
