import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../../api/client';
import type { Foretold } from '../../../log/heights';
import { useInstruments, useReadings } from '../../../parts/instruments/useReadings';
import { faces } from '../../../theme/tokens';
import { instrumentWords as t } from '../../../words/instruments';
import { plain } from '../../../words/numbers';
import { compareAngle, compareHeight, compareIndex, type Compared } from './compare';
import { useKept, type AtStop } from './useDials';

type Facet = BenchScript['facets'][number];

/** What the protractor shows, beside the angle to set. */
export function LiveAngle({ facet }: { facet: Facet }) {
  const reading = useReadings().get('angle');
  const compared = reading && compareAngle(reading, facet);
  return compared ? <Shown text={t.reading.angle(reading.value)} compared={compared} /> : null;
}

/** What the gear shows, beside the index to set. */
export function LiveIndex({ facet, teeth }: { facet: Facet; teeth: number }) {
  const reading = useReadings().get('index');
  if (!reading) return null;
  return (
    <Shown text={t.reading.index(reading.value)} compared={compareIndex(reading, facet, teeth)} />
  );
}

/** What the mast's dial shows, beside what was foretold, and what Done keeps of it. */
export function LiveHeight({ told, atStop }: { told: Foretold | undefined; atStop: AtStop }) {
  const reading = useReadings().get('height');
  const kept = useKept(atStop);
  if (!reading) return null;
  const compared = compareHeight(reading, told);
  return (
    <Typography component="div" sx={{ fontSize: '1.25rem' }}>
      {t.quantities.height} <Shown text={t.reading.height(reading.value)} compared={compared} />
      {kept?.height !== undefined && (
        <Typography component="span" color="text.secondary" sx={{ ml: 3 }} data-kept={kept.height}>
          {t.keeps}: {t.reading.height(kept.height)}
        </Typography>
      )}
    </Typography>
  );
}

/** Names the instruments that are away: what they read has to be typed meanwhile. */
export function InstrumentsAway() {
  const away = useInstruments().filter((i) => !i.here && i.trouble !== '');
  if (away.length === 0) return null;
  return (
    <Typography role="status" color="text.secondary">
      {away.map((i) => t.away(i.name, i.trouble)).join(' ')}
    </Typography>
  );
}

/** A reading, and how it stands to what is to be set: in words, and in ember as long as it is off. */
function Shown({ text, compared }: { text: string; compared: Compared | undefined }) {
  return (
    <Box
      component="span"
      data-live={text}
      sx={{ fontFamily: faces.figures, fontSize: '1.375rem', whiteSpace: 'nowrap' }}
    >
      {text}{' '}
      {compared && (
        <Box
          component="strong"
          sx={{
            color: compared.there ? 'primary.main' : 'secondary.main',
            fontFamily: faces.words,
          }}
        >
          {standing(compared)}
        </Box>
      )}
    </Box>
  );
}

function standing({ off, there, held }: Compared): string {
  if (there) return held ? t.held : t.atStop;
  const by = plain(Math.round(Math.abs(off) * 100) / 100);
  return off < 0 ? t.low(by) : t.high(by);
}
