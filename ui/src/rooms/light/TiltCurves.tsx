import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import { LineChart } from '@mui/x-charts/LineChart';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { lightWords } from '../../words/light';
import { percent } from '../../words/numbers';
import { tiltsQuery, type LitDraft } from '../../api/light';

const choices = ['return', 'window', 'headShadow', 'leak'] as const;
type Choice = (typeof choices)[number];

/** How a figure changes as the stone is tilted along both axes. */
export function TiltCurves({ draft, lighting }: LitDraft) {
  const t = lightWords.tilt;
  const { tokens } = useTheme();
  const [of, setOf] = useState<Choice>('return');
  const curve = useQuery(tiltsQuery(draft, lighting));
  const points = curve.data ?? [];
  const share = (v: number | null) => (v === null ? '' : percent(v));
  const line = { curve: 'linear', showMark: false, valueFormatter: share } as const;
  return (
    <Box component="section" aria-label={t.head} sx={{ mt: 5 }}>
      <Typography variant="h3">{t.head}</Typography>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        {t.lead}
      </Typography>
      <PickField
        label={t.of}
        value={of}
        options={Object.fromEntries(choices.map((c) => [c, lightWords.names[c]]))}
        onChange={setOf}
        width={170}
      />
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        {lightWords.means[of]}
      </Typography>
      <Refusal error={curve.error} />
      {points.length > 0 && (
        <LineChart
          height={260}
          skipAnimation
          xAxis={[
            {
              data: points.map((p) => p.degrees),
              label: t.axis,
              height: 60,
              tickInterval: points.map((p) => p.degrees).filter((d) => d % 20 === 0),
              tickLabelInterval: () => true,
              min: points[0]!.degrees,
              max: points.at(-1)!.degrees,
            },
          ]}
          yAxis={[{ min: 0, max: 1, valueFormatter: (v: number) => `${Math.round(100 * v)} %` }]}
          series={[
            {
              ...line,
              id: 'twelve',
              data: points.map((p) => p.twelve[of]),
              label: t.twelve,
              color: tokens.copper,
            },
            {
              ...line,
              id: 'three',
              data: points.map((p) => p.three[of]),
              label: t.three,
              color: tokens.ember,
            },
          ]}
          grid={{ horizontal: true }}
          // Told apart without colour too.
          sx={{ '& path[data-series=three]': { strokeDasharray: '7 5' } }}
        />
      )}
    </Box>
  );
}
