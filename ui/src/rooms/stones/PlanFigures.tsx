import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { Assessment } from '../../api/client';
import { Figures } from '../../parts/Page';
import { angle, carats, mm, plain, span } from '../../words/numbers';
import { w } from '../../words/words';

/** What a plan comes to: size, weight, critical angle, and what calipers read. */
export function PlanFigures({ assessment: a }: { assessment: Assessment }) {
  const s = w.stones;
  const { criticalAngle: critical, refractiveIndex: n } = a;
  const girdleOdd = a.warnings.some((p) => p.field === 'girdle');
  const optional: [string, number][] = [
    [s.crown, a.crown],
    [s.pavilion, a.pavilion],
    [s.table, a.table],
  ];
  return (
    <Box
      component="section"
      aria-label={s.figures}
      sx={{
        alignItems: 'start',
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' },
        gap: 6,
        my: 3,
      }}
    >
      <Figures
        rows={[
          [s.width, mm(a.width)],
          [s.length, mm(a.length)],
          [s.height, mm(a.height)],
          ...(a.girdleMax > 0
            ? [[s.girdle, <Girdle key="girdle" {...a} odd={girdleOdd} />] as [string, ReactNode]]
            : []),
          ...optional.filter(([, v]) => v > 0).map(([name, v]): [string, string] => [name, mm(v)]),
        ]}
      />
      <Figures
        rows={[
          [s.weight, carats(a.carats)],
          [
            s.critical,
            critical.low === critical.high
              ? `${angle(critical.high)}°`
              : s.criticals(angle(critical.high), plain(n.low), angle(critical.low), plain(n.high)),
          ],
          ...a.calipers.map((c): [string, string] => [
            `${s.calipers} ${c.tier}, ${c.flats ? s.flats : s.corner}`,
            mm(c.mm),
          ]),
        ]}
      />
    </Box>
  );
}

/** A girdle's thickness; one that is out of the ordinary carries a sign. */
function Girdle(props: { girdleMin: number; girdleMax: number; odd: boolean }) {
  const text = span(props.girdleMin, props.girdleMax, mm);
  if (!props.odd) return text;
  return (
    <Box component="strong" sx={{ color: 'secondary.main' }}>
      ! {text}
    </Box>
  );
}
