import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { StoneView, ToleranceResult } from '../../api/client';
import { Sheet } from '../../parts/Sheet';
import { vec } from '../../parts/stone/geometry';
import type { RingMark } from '../../parts/stone/grab';
import { BothSides } from '../../parts/stone/BothSides';
import { um } from '../../words/numbers';
import { anglesWords } from '../../words/angles';
import { errorWords } from '../../words/errors';

const e = errorWords;
/** Kinds of meets that are listed: the worst. */
const listed = 14;

type Scattered = ToleranceResult['meets'][number];

/** Meets by kind, the worst first: those of a kind lie alike on the stone and have one figure. */
function kindsOf(meets: readonly Scattered[]): Scattered[][] {
  const out: Scattered[][] = [];
  for (const m of meets) (out[m.kind] ??= []).push(m);
  return out.slice(0, listed);
}

/** The worst meets on the stone and in a list; choosing one there shows it here. */
export function ScatteredMeets({
  stone,
  meets,
}: {
  stone: StoneView;
  meets: readonly Scattered[];
}) {
  const [chosen, setChosen] = useState(0);
  if (meets.length === 0) return <Typography>{e.noMeets}</Typography>;
  const kinds = kindsOf(meets);
  const rings: RingMark[] = kinds.flatMap((kind, i) =>
    // All of the chosen kind are ringed, of the others one each.
    (i === chosen ? kind : kind.slice(0, 1)).map((m) => ({
      at: vec(m.point),
      n: i + 1,
      label: e.ring(i + 1, m.facets.join(' '), um(m.p95)),
      chosen: i === chosen,
      run: () => setChosen(i),
    })),
  );
  return (
    <Box>
      <BothSides mesh={stone.mesh} height={300} rings={rings} pixel={0.65} />
      <Typography variant="h3">{e.meets}</Typography>
      <Sheet dense head={['', anglesWords.meet, e.alike, e.half, e.twenty]}>
        {kinds.map((kind, i) => {
          const m = kind[0]!;
          return (
            <Box
              component="tr"
              key={m.facets.join()}
              onClick={() => setChosen(i)}
              sx={{
                cursor: 'pointer',
                background: (t) => (i === chosen ? t.tokens.emberWash : undefined),
              }}
            >
              <td className="figure">
                <Box
                  component="button"
                  type="button"
                  aria-pressed={i === chosen}
                  aria-label={e.ring(i + 1, m.facets.join(' '), um(m.p95))}
                  sx={{
                    all: 'unset',
                    cursor: 'pointer',
                    minWidth: 32,
                    '&:focus-visible': { outline: 2 },
                  }}
                >
                  {i + 1}
                </Box>
              </td>
              <Box component="td" className="figure" sx={{ whiteSpace: 'normal !important' }}>
                {m.facets.slice(0, 6).join(' ')}
                {m.facets.length > 6 && ' …'}
              </Box>
              <td className="figure">{kind.length}</td>
              <td className="figure">{um(m.p50)}</td>
              <td className="figure">{um(m.p95)}</td>
            </Box>
          );
        })}
      </Sheet>
    </Box>
  );
}
