import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { estimateQuery, type PieceForm } from '../../api/rough';
import { usualQuery } from '../../api/settings';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { carats, mm, percent } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { limitsOf } from './limits';

const r = roughWords.estimate;

/** What a piece may become in an outline: by its three sizes, and by its solid in any position. */
export function Estimate({ draft, ready }: { draft: PieceForm; ready: boolean }) {
  const [outline, setOutline] = useState<keyof typeof r.outlines>('round');
  const usual = useQuery(usualQuery).data;
  const allowance = usual?.allowance ?? 0;
  const { data, error } = useQuery({
    ...estimateQuery(draft, outline, allowance),
    enabled: ready && usual !== undefined,
  });
  return (
    <Box component="section" aria-label={r.title} sx={{ mt: 3 }}>
      <Typography variant="h3" sx={{ mb: 2 }}>
        {r.title}
      </Typography>
      <PickField label={r.outline} value={outline} options={r.outlines} onChange={setOutline} />
      <Refusal error={ready ? error : null} />
      {!ready && <Typography color="text.secondary">{r.first}</Typography>}
      {ready && data && (
        <>
          <Sheet dense head={r.head}>
            <tr>
              <td>{r.width}</td>
              <td className="figure">{mm(data.width)}</td>
              <td className="figure">{mm(data.fitWidth)}</td>
            </tr>
            <tr>
              <td>{r.weight}</td>
              <td className="figure">{carats(data.carat)}</td>
              <td className="figure">{carats(data.fitCarat)}</td>
            </tr>
            <tr>
              <td>{r.limit}</td>
              <td>{r.by[data.by]}</td>
              <td>{limitsOf(data.limitedBy)}</td>
            </tr>
          </Sheet>
          <Typography variant="body2" color="text.secondary">
            {r.like(data.diagram, allowance, percent(data.fitYield))}
          </Typography>
        </>
      )}
    </Box>
  );
}
