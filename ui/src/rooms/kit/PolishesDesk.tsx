import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { dropPolishTrial, polishesQuery, type PolishList } from '../../api/trials';
import { Refusal } from '../../parts/forms/Refusal';
import { Await, Empty } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { kitWords } from '../../words/kit';
import { lapWords } from '../../words/laps';
import { day, duration, plain } from '../../words/numbers';
import { PolishDialog } from './PolishDialog';

const k = kitWords.polish;

/** What polishes made of facets, and which stands best on what. */
export function PolishesDesk() {
  const list = useQuery(polishesQuery);
  const [adding, setAdding] = useState(false);
  return (
    <Await query={list}>
      {(l) => (
        <>
          {l.trials.length === 0 ? (
            <Empty text={k.none}>
              <Button variant="contained" onClick={() => setAdding(true)}>
                {k.note}
              </Button>
            </Empty>
          ) : (
            <>
              <Button variant="contained" onClick={() => setAdding(true)} sx={{ mb: 4 }}>
                {k.note}
              </Button>
              <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 10, rowGap: 6 }}>
                <Standings list={l} />
                <Trials list={l} />
              </Box>
            </>
          )}
          {adding && <PolishDialog onClose={() => setAdding(false)} />}
        </>
      )}
    </Await>
  );
}

const line = (lap: string, compound: string) => lapWords.line(lap, compound, '');

/** How polishes stand, material by material: a bar as long as the mean of its results. */
function Standings({ list }: { list: PolishList }) {
  const materials = [...new Set(list.standings.map((s) => s.material))];
  return (
    <Box component="section" aria-label={k.standings} sx={{ flex: '1 1 480px' }}>
      <Typography variant="h2">{k.standings}</Typography>
      {materials.map((material) => (
        <Box key={material} sx={{ mt: 3 }}>
          <Typography variant="h3" sx={{ borderBottom: 1, pb: 0.5 }}>
            {material}
          </Typography>
          {list.standings
            .filter((s) => s.material === material)
            .map((s, i) => (
              <Box key={s.lap + s.compound} sx={{ borderBottom: 1, borderColor: 'divider', py: 1 }}>
                <Box sx={{ display: 'flex', gap: 4 }}>
                  <Typography sx={{ flexGrow: 1, fontWeight: i === 0 ? 600 : undefined }}>
                    {line(s.lap, s.compound)}
                  </Typography>
                  <Typography variant="figures">
                    {plain(Math.round(10 * s.mean) / 10)} / 4
                  </Typography>
                </Box>
                <Box
                  aria-hidden
                  sx={{
                    height: 6,
                    my: 0.5,
                    border: 1,
                    borderColor: 'divider',
                    background: (t) =>
                      `linear-gradient(to right, ${i === 0 ? t.tokens.copper : t.tokens.rough} ${25 * s.mean}%, transparent 0)`,
                  }}
                />
                <Typography variant="body2" color="text.secondary">
                  {[
                    k.results[Math.round(s.mean)],
                    s.minutes > 0 ? duration(s.minutes) : '',
                    k.trials(s.trials),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Typography>
              </Box>
            ))}
        </Box>
      ))}
    </Box>
  );
}

function Trials({ list }: { list: PolishList }) {
  const drop = useMutation(dropPolishTrial);
  return (
    <Box component="section" aria-label={k.made} sx={{ flex: '1 1 480px' }}>
      <Typography variant="h2" gutterBottom>
        {k.made}
      </Typography>
      <Refusal error={drop.error} />
      <Sheet dense head={[k.material, k.facet, k.lap, k.result, '', '']}>
        {list.trials.flatMap((t) =>
          t.ways.map((way, i) => (
            <tr key={t.id + i}>
              <td>
                {i === 0 && (
                  <>
                    {t.material}
                    <Typography variant="body2" color="text.secondary">
                      {day(t.made)}
                    </Typography>
                  </>
                )}
              </td>
              <td>{way.facet}</td>
              <td>
                {line(way.lap, way.compound)}
                <Typography variant="body2" color="text.secondary">
                  {[
                    way.rpm > 0 ? `${plain(way.rpm)} rpm` : '',
                    t.speeds[i]! > 0 ? `${plain(t.speeds[i]!)} m/s` : '',
                    way.pressure && k.pressures[way.pressure],
                    way.strokes > 0 ? `${way.strokes} ${k.strokes.toLowerCase()}` : '',
                    way.minutes > 0 ? duration(way.minutes) : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Typography>
              </td>
              <td>{k.results[way.result]}</td>
              <td>
                {way.photo && (
                  <a href={`/api/photos/${way.photo}`} target="_blank" rel="noreferrer">
                    <Box
                      component="img"
                      src={`/api/photos/${way.photo}/small`}
                      alt={k.photoOf(way.facet || k.way(i))}
                      sx={{ height: 44, display: 'block' }}
                    />
                  </a>
                )}
              </td>
              <td>
                {i === 0 && (
                  <IconButton
                    aria-label={k.drop(t.material, day(t.made))}
                    onClick={() => drop.mutate(t.id)}
                  >
                    <Close />
                  </IconButton>
                )}
              </td>
            </tr>
          )),
        )}
      </Sheet>
    </Box>
  );
}
