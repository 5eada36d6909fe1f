import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQueries } from '@tanstack/react-query';
import type { Diagram, Draft } from '../../api/client';
import { LightPicture } from '../../parts/light/LightPicture';
import type { Looking, Show, Tilt } from '../../parts/light/looking';
import { useLook } from '../../parts/light/useLook';
import { Figures } from '../../parts/Page';
import { Refusal } from '../../parts/Refusal';
import { Sheet } from '../../parts/Sheet';
import { lightWords } from '../../words/light';
import { percent } from '../../words/numbers';
import { told } from './FaceUpFigures';
import { figuresQuery } from './queries';

/** How all stones of a comparison are looked at: alike. */
export interface CommonView {
  looking: Looking;
  show: Show;
  tilt: Tilt;
  onTilt: (change: (t: Tilt) => Tilt) => void;
}

/** One stone of a comparison under the common light; tilting it tilts all. */
export function LightColumn({ draft, view }: { draft: Draft; view: CommonView }) {
  const seen = useLook({ draft, ...view });
  return (
    <>
      <Box sx={{ height: 'min(30vw, 320px)' }}>
        <LightPicture name={draft.name} seen={seen} tilt={view.tilt} onTilt={view.onTilt} />
      </Box>
      {seen.look && (
        <Figures
          rows={seen.look.ways.map((way) => [
            <Box key={way.way} component="span" sx={{ display: 'inline-flex', gap: 1.5 }}>
              {view.show === 'ways' && (
                <Box
                  aria-hidden
                  component="span"
                  sx={{ width: 14, height: 14, alignSelf: 'center', background: way.colour }}
                />
              )}
              {lightWords.ways[way.way]}
            </Box>,
            percent(way.share),
          ])}
        />
      )}
    </>
  );
}

/** The figures of all stones face up, each with how far it is from the first. */
export function LightDifferences({ list, looking }: { list: Diagram[]; looking: Looking }) {
  const asked = useQueries({ queries: list.map((d) => figuresQuery(d.draft, looking)) });
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
          {told(first).map((name) => (
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
