import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { LightFigures } from '../../api/client';
import { Refusal } from '../forms/Refusal';
import { lightWords } from '../../words/light';
import { angle, percent, plain } from '../../words/numbers';
import { figuresQuery, type LitDraft } from '../../api/light';

export type Figure = keyof typeof lightWords.names;

/** The figures that are always told; others only where there is something to tell. */
const always: Figure[] = ['return', 'window', 'headShadow', 'leak', 'glare'];
const sometimes: Figure[] = ['frosted', 'residual'];

/** The figures of a stone that say something. */
export const tellingFigures = (f: LightFigures): Figure[] => [
  ...always,
  ...sometimes.filter((name) => f[name] >= 0.0005),
];

/** The figures of the stone face up, each with what it means. */
export function FaceUpFigures({ draft, lighting }: LitDraft) {
  const l = lightWords;
  const asked = useQuery(figuresQuery(draft, lighting));
  const f = asked.data;
  return (
    <Box component="section" aria-label={l.figures}>
      <Typography variant="h3">{l.figures}</Typography>
      <Refusal error={asked.error} />
      {f && (
        <>
          <Explained figures={f} names={tellingFigures(f)} />
          <Typography sx={{ mt: 2 }}>
            {l.critical(angle(f.criticalAngle), plain(f.refractiveIndex))}
          </Typography>
        </>
      )}
      <Typography color="text.secondary" sx={{ mt: 1, maxWidth: 640 }}>
        {l.compares}
      </Typography>
    </Box>
  );
}

/** Figures of light, each with what it means. */
export function Explained<Name extends Figure>({
  figures,
  names,
}: {
  figures: Record<Name, number>;
  names: Name[];
}) {
  return (
    <Box component="dl" sx={{ m: 0, mt: 2 }}>
      {names.map((name) => (
        <Box
          key={name}
          sx={{
            display: 'grid',
            gridTemplateColumns: '150px 80px 1fr',
            gap: 3,
            alignItems: 'baseline',
            borderBottom: 1,
            borderColor: 'divider',
            py: 1,
          }}
        >
          <Typography component="dt">{lightWords.names[name]}</Typography>
          <Typography component="dd" variant="figures" sx={{ m: 0, textAlign: 'right' }}>
            {percent(figures[name])}
          </Typography>
          <Typography component="dd" color="text.secondary" sx={{ m: 0 }}>
            {lightWords.means[name]}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
