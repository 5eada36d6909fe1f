import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../api/client';
import { passName } from '../../parts/work/visitWords';
import { w } from '../../words/words';
import { MarkedStone } from './MarkedStone';

interface Props {
  script: BenchScript;
  /** Places of the visits that were skipped. */
  places: readonly number[];
  onCut: (place: number) => void;
}

/** Facets that were skipped, each with the way to it. */
export function SkippedList({ script, places, onCut }: Props) {
  return (
    <>
      <Typography variant="h2">{w.bench.skippedHead(places.length)}</Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {w.bench.skippedLead}
      </Typography>
      {places.map((i) => {
        const visit = script.visits[i]!;
        const facet = script.facets[visit.facet]!;
        const name = w.bench.skippedFacet(
          facet.tier,
          facet.dial.tooth,
          passName(script, visit.pass),
        );
        return (
          <Box
            key={i}
            sx={{
              display: 'flex',
              alignItems: 'center',
              gap: 3,
              borderBottom: 1,
              borderColor: 'divider',
            }}
          >
            <Typography sx={{ flexGrow: 1, fontSize: '1.25rem' }}>{name}</Typography>
            <Button
              aria-label={`${w.bench.cutNow}: ${name}`}
              onClick={() => onCut(i)}
              sx={{ minHeight: 64 }}
            >
              {w.bench.cutNow}
            </Button>
          </Box>
        );
      })}
    </>
  );
}

interface ScreenProps extends Props {
  /** The step of the picture that is cut. */
  step: number;
  /** The pass that has ended, in words; '' where the list was asked for. */
  pass: string;
  /** What leads on. */
  go: string;
  onGo: () => void;
}

/** Facets that were skipped, on the stone as it is and by name. */
export function SkippedScreen({ step, pass, go, onGo, ...list }: ScreenProps) {
  const { script, places } = list;
  const visits = places.map((i) => script.visits[i]!);
  const first = visits[0] && script.facets[visits[0].facet]!;
  const facets = visits.map((v) => script.facets[v.facet]!);
  return (
    <Box
      sx={{
        height: '100%',
        display: 'grid',
        gridTemplateColumns: 'repeat(2, minmax(0, 1fr))',
        gap: 4,
        p: 4,
      }}
    >
      <Box sx={{ minHeight: 0 }}>
        {first && (
          <MarkedStone
            {...{ script, step, facets }}
            setup={first.setup}
            label={w.bench.skippedHead(places.length)}
          />
        )}
      </Box>
      <Box sx={{ overflow: 'auto' }}>
        {pass && (
          <Typography variant="h1" component="p" gutterBottom>
            {w.bench.endOfPass(pass)}
          </Typography>
        )}
        <SkippedList {...list} />
        <Button variant="outlined" onClick={onGo} sx={{ minHeight: 64, mt: 4 }}>
          {go}
        </Button>
      </Box>
    </Box>
  );
}
