import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { Freehand } from '../../api/client';
import { NumberField } from '../../parts/fields/NumberField';
import { reads } from '../../parts/instruments/ReadingOffer';
import { PickField } from '../../parts/fields/PickField';
import { freehandWords as t } from '../../words/freehand';
import { angle } from '../../words/numbers';
import { w } from '../../words/words';
import { faces } from '../../theme/tokens';
import { rounds, type Dialled } from './setting';

interface Props {
  dialled: Dialled;
  gear: number;
  next: NonNullable<Freehand['next']> | undefined;
  /** Nothing is cut yet. */
  fresh: boolean;
  onChange: (to: Partial<Dialled>) => void;
}

/** A figure that is dialled, to be read from a metre. */
const large = {
  flex: '1 1 0',
  minWidth: 0,
  '& input': {
    fontFamily: faces.figures,
    fontWeight: 600,
    fontSize: 'clamp(72px, min(14.5vw, 19.4vh), 200px)',
    lineHeight: 1,
    height: 'auto',
    p: 1,
    letterSpacing: '-0.03em',
  },
};

/** What is dialled next: angle, index, and how many facets go round from there. */
export function Dials({ dialled, gear, next, fresh, onChange }: Props) {
  const notes = [
    typeof next?.margin === 'number' &&
      (next.margin < 0 ? t.below(angle(-next.margin)) : t.margin(angle(next.margin))),
    next && next.below !== next.above && t.between(angle(next.below), angle(next.above)),
  ].filter((n) => typeof n === 'string');
  return (
    <Box component="section" aria-label={t.title} sx={{ pt: 2 }}>
      <Typography variant="h2" component="p" sx={{ mb: 1 }}>
        {[t.turned(w.tiers.parts[dialled.up]!), next?.tier].filter(Boolean).join(' · ')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, mb: 1 }}>
        <Box sx={{ ...large, flexGrow: 1.5 }}>
          <NumberField
            label={t.angle}
            measures={reads.angle}
            min={0}
            max={90}
            value={dialled.angle}
            optional=""
            width="100%"
            onChange={(v) => onChange({ angle: v })}
          />
        </Box>
        <Box sx={large}>
          <NumberField
            label={t.index}
            measures={reads.index}
            min={0}
            max={gear}
            value={dialled.index}
            optional=""
            width="100%"
            onChange={(v) => onChange({ index: v })}
          />
        </Box>
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <PickField
          label={t.times}
          value={String(dialled.times)}
          options={rounds.map((n) => ({ value: String(n), name: t.timesOf(n) }))}
          onChange={(v) => onChange({ times: Number(v) })}
          width={190}
        />
        {fresh && (
          <>
            <Button onClick={() => onChange({ angle: 45, index: gear, times: 16 })}>
              {t.cone}
            </Button>
            <Button onClick={() => onChange({ angle: 90, index: gear, times: 16 })}>
              {t.round}
            </Button>
          </>
        )}
        <Typography
          sx={{
            color: next?.judgement === 'error' ? 'error.main' : 'text.secondary',
            fontWeight: next?.judgement === 'error' ? 600 : undefined,
          }}
        >
          {notes.join(' · ')}
        </Typography>
      </Box>
    </Box>
  );
}
