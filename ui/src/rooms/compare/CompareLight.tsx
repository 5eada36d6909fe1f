import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQueries } from '@tanstack/react-query';
import type { Diagram, Draft } from '../../api/client';
import { LightPicture } from '../../parts/light/LightPicture';
import type { Lighting, Show, Tilt } from '../../parts/light/lighting';
import { useLook } from '../../parts/light/useLook';
import { Figures } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { lightWords } from '../../words/light';
import { percent } from '../../words/numbers';
import { tellingFigures } from '../../parts/light/FaceUpFigures';
import { figuresQuery } from '../../api/light';

/** How all stones of a comparison are looked at: alike. */
export interface CommonView {
  lighting: Lighting;
  show: Show;
  tilt: Tilt;
  onTilt: (change: (t: Tilt) => Tilt) => void;
}

/** One stone of a comparison under the common light; tilting it tilts all. */
export function LightColumn({ draft, view }: { draft: Draft; view: CommonView }) {
  const stone = useLook({ draft, ...view });
  return (
    <>
      <Box sx={{ height: 'min(30vw, 320px)' }}>
        <LightPicture name={draft.name} stone={stone} tilt={view.tilt} onTilt={view.onTilt} />
      </Box>
      {stone.look && (
        <Figures
          rows={stone.look.ends.map((end) => [
            <Box key={end.end} component="span" sx={{ display: 'inline-flex', gap: 1.5 }}>
              {view.show === 'ends' && (
                <Box
                  aria-hidden
                  component="span"
                  sx={{ width: 14, height: 14, alignSelf: 'center', background: end.colour }}
                />
              )}
              {lightWords.ends[end.end]}
            </Box>,
            percent(end.share),
          ])}
        />
      )}
    </>
  );
}

/** The figures of all stones face up, each with how far it is from the first. */
export function LightDifferences({ list, lighting }: { list: Diagram[]; lighting: Lighting }) {
  const asked = useQueries({ queries: list.map((d) => figuresQuery(d.draft, lighting)) });
  const figures = asked.map((q) => q.data);
  const first = figures[0];
  return (
    <Box component="section" aria-label={lightWords.compare.differences} sx={{ mt: 6 }}>
      <Typography variant="h3" gutterBottom>
        {lightWords.compare.differences}
      </Typography>
      <Refusal error={asked.find((q) => q.error)?.error ?? null} />
      {first && (
        <Sheet dense head={['', ...list.map((d) => d.draft.name), '']}>
          {tellingFigures(first).map((name) => (
            <tr key={name}>
              <td>{lightWords.names[name]}</td>
              {figures.map((f, i) => (
                <td key={i} className="figure">
                  {f && percent(f[name])}
                  {f && i > 0 && ` (${points(f[name] - first[name])})`}
                </td>
              ))}
              <Box component="td" sx={{ color: 'text.secondary', maxWidth: 420 }}>
                {lightWords.means[name]}
              </Box>
            </tr>
          ))}
        </Sheet>
      )}
      <Typography color="text.secondary" sx={{ mt: 2 }}>
        {lightWords.compares}
      </Typography>
    </Box>
  );
}

/** A difference of two shares with its sign. */
const points = (v: number): string =>
  (Math.abs(v) < 0.0005 ? '±' : v < 0 ? '−' : '+') + percent(Math.abs(v));
