import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript, SeatView } from '../../api/client';
import { seatQuery } from '../../api/stones';
import type { BenchState } from '../../log/standing';
import { NumberField } from '../../parts/fields/NumberField';
import { Refusal } from '../../parts/forms/Refusal';
import { reads } from '../../parts/instruments/ReadingOffer';
import { plain } from '../../words/numbers';
import { seatWords as t } from '../../words/seat';
import { w } from '../../words/words';
import { MarkedStone } from './MarkedStone';
import { Panel } from './Panel';

interface Props {
  script: BenchScript;
  state: BenchState;
  /** The setup that the stone sits in. */
  setup: string;
  onClose: () => void;
}

type Line = SeatView['lines'][number];

/** The stone across, facet by facet: what calipers read, and what is to come off until it fills a setting. */
export function SeatPanel({ script, state, setup, onClose }: Props) {
  const [width, setWidth] = useState<number>();
  const [length, setLength] = useState<number>();
  const [read, setRead] = useState<Record<string, number | undefined>>({});
  const [chosen, setChosen] = useState<string>();
  const readings = Object.entries(read).flatMap(([facet, mm]) =>
    mm === undefined ? [] : [{ facet, mm }],
  );
  const found = useQuery(
    seatQuery(script.stoneId, { setup, width: width ?? 0, length: length ?? 0, readings }),
  );
  const lines = found.data?.lines ?? [];
  const line = lines.find((l) => l.id === chosen);
  const teeth = line ? [line.tooth, line.opposite] : [];
  return (
    <Panel
      title={t.title}
      lead={t.lead}
      onClose={onClose}
      picture={
        <MarkedStone
          script={script}
          step={state.step}
          setup={script.setups.findIndex((s) => s.id === setup)}
          facets={script.facets.filter(
            (f) => line && f.tier === line.tier && teeth.includes(f.dial.tooth),
          )}
          label={t.title}
        />
      }
    >
      <Refusal error={found.error} />
      <Box sx={{ display: 'flex', gap: 3, mb: 3 }}>
        <NumberField
          label={t.width}
          unit={w.units.mm}
          optional={found.data ? plain(Math.round(found.data.width * 100) / 100) : ''}
          min={0.1}
          max={500}
          value={width}
          width={220}
          onChange={setWidth}
        />
        <NumberField
          label={t.length}
          unit={w.units.mm}
          optional={found.data ? plain(Math.round(found.data.length * 100) / 100) : ''}
          min={0.1}
          max={500}
          value={length}
          width={220}
          onChange={setLength}
        />
      </Box>
      {found.data && lines.length === 0 && <Typography role="status">{t.noGirdle}</Typography>}
      {lines.map((l) => (
        <Box
          key={l.id}
          onFocus={() => setChosen(l.id)}
          sx={{
            display: 'grid',
            gridTemplateColumns: '200px 180px 1fr',
            gap: 3,
            alignItems: 'center',
            mb: 2,
          }}
        >
          <Typography sx={{ fontSize: '1.125rem', fontWeight: l.id === chosen ? 600 : undefined }}>
            {t.between(l.tier, l.tooth, l.opposite)}
            <br />
            <Typography component="span" variant="figures">
              {t.is(l.seat)}
            </Typography>
          </Typography>
          <NumberField
            label={t.reads(l.tier, l.tooth)}
            unit={w.units.mm}
            measures={reads.calipers}
            optional=""
            min={0.1}
            max={500}
            value={read[l.id]}
            onChange={(mm) => setRead({ ...read, [l.id]: mm })}
          />
          <Typography role="status" sx={{ fontSize: '1.125rem' }}>
            {comesOff(l)}
          </Typography>
        </Box>
      ))}
    </Panel>
  );
}

/** A hundredth of a millimetre is more than calipers tell. */
const nothing = 0.005;

/** What is to come off at a place that was measured. */
function comesOff({ take, oppositeTake, tooth, opposite, divisions }: Line): string {
  if (take === null || oppositeTake === null) return '';
  const all = take + oppositeTake;
  if (all < -nothing) return t.tooSmall(-all);
  if (all <= nothing) return t.fits;
  const here = plain(Math.round(take * 1000) / 1000);
  const there = plain(Math.round(oppositeTake * 1000) / 1000);
  if (opposite !== null && here !== there) return t.takeBoth(tooth, here, opposite, there);
  const steps = divisions === null ? '' : plain(Math.round(divisions * 10) / 10);
  return t.take(here, steps, opposite !== null);
}
