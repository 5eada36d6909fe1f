import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { Choices } from '../../api/client';
import { TextLink } from '../../parts/TextLink';
import { kitWords } from '../../words/kit';

const k = kitWords.cutWith;

/** The laps, compounds, dops and adhesives of a stone's plan. They stay here when they are gone. */
export function CutWith({ choices }: { choices: Choices }) {
  const { pavilion, crown } = kitWords.holds;
  const sides = choices.firstSide === 'pavilion' ? [pavilion, crown] : [crown, pavilion];
  const rows = [
    ...choices.passes.map((p) => ({
      key: p.id,
      name: p.name,
      things: [
        [p.lap, p.lapItem],
        [p.compound, p.compoundItem],
      ],
    })),
    ...choices.holds.map((h, i) => ({
      key: `hold ${i}`,
      name: k.held(sides[i] ?? ''),
      things: [
        [h.dop, h.dopItem],
        [h.adhesive, h.adhesiveItem],
      ],
    })),
  ].map((row) => ({ ...row, things: row.things.filter(([name]) => name !== '') }));
  return (
    <Box component="section" aria-label={k.head} sx={{ my: 4 }}>
      <Typography variant="h3" gutterBottom>
        {k.head}
      </Typography>
      {rows
        .filter((row) => row.things.length > 0)
        .map((row) => (
          <Box
            key={row.key}
            sx={{ display: 'flex', gap: 4, borderBottom: 1, borderColor: 'divider', py: 0.5 }}
          >
            <Typography color="text.secondary" sx={{ flexGrow: 1 }}>
              {row.name}
            </Typography>
            <Typography>
              {row.things.map(([name, item], i) => (
                <span key={name}>
                  {i > 0 && ', '}
                  {item ? <TextLink to={`/kit?thing=${item}`}>{name}</TextLink> : name}
                </span>
              ))}
            </Typography>
          </Box>
        ))}
    </Box>
  );
}
