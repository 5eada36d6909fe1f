import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import { setAdapter, stoneLineQuery, tiltedTableQuery, type Begins } from '../../api/stones';
import { NumberField } from '../../parts/fields/NumberField';
import { NumbersField } from '../../parts/fields/NumbersField';
import { reads } from '../../parts/instruments/ReadingOffer';
import { Refusal } from '../../parts/forms/Refusal';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { angle } from '../../words/numbers';
import { adapterWords as t } from '../../words/adapter';
import { w } from '../../words/words';
import { Panel } from './Panel';
import type { Reread } from './reread';
import { upOf } from '../../parts/stone/setups';

interface Props {
  script: BenchScript;
  /** The place of a visit on the adapter. */
  at: number;
  reread: Reread;
  onClose: () => void;
}

/** Where the sides stand round the picture, as the cutter looks at it. */
const areas: Record<Begins, string> = {
  far: '1 / 2',
  left: '2 / 1',
  right: '2 / 3',
  near: '3 / 2',
};

/** The table adapter: a table that came in from one side, and the adapter's true angle. */
export function AdapterPanel({ script, at, reread, onClose }: Props) {
  const visit = script.visits[at]!;
  const facet = script.facets[visit.facet]!;
  const [begins, setBegins] = useState<Begins>();
  const [mm, setMM] = useState<number>();
  const [readings, setReadings] = useState<number[]>([]);
  const seen = useQuery(tiltedTableQuery(script.stoneId, begins, mm ?? 0));
  const line = useQuery(stoneLineQuery(script.stoneId));
  const set = useMutation(setAdapter);
  const keep = () =>
    set.mutate(
      { stone: script.stoneId, readings, version: line.data!.version },
      {
        onSuccess: () => {
          void reread();
          onClose();
        },
      },
    );
  return (
    <Panel
      title={t.title}
      lead={t.set(angle(facet.reading))}
      onClose={onClose}
      picture={
        <Box
          sx={{
            height: '100%',
            display: 'grid',
            gridTemplate: 'auto auto auto / auto minmax(0, 1fr) auto',
            alignContent: 'center',
            alignItems: 'center',
            justifyItems: 'center',
            gap: 1,
          }}
        >
          {(Object.keys(areas) as Begins[]).map((side) => (
            <Button
              key={side}
              aria-pressed={side === begins}
              variant={side === begins ? 'contained' : 'outlined'}
              onClick={() => setBegins(side)}
              sx={{ gridArea: areas[side], minHeight: 64, minWidth: 88 }}
            >
              {t.sides[side]}
            </Button>
          ))}
          <Box sx={{ gridArea: '2 / 2', width: '100%', aspectRatio: '1', maxHeight: '60vh' }}>
            <StoneInWheel
              mesh={script.mesh}
              step={visit.after}
              up={upOf(script.setups[facet.setup]!)}
              now={facet.no}
              label={t.picture}
            />
          </Box>
        </Box>
      }
    >
      <Typography variant="h3" gutterBottom>
        {t.tilted}
      </Typography>
      <Typography sx={{ fontSize: '1.125rem', mb: 2 }}>{t.tiltedLead}</Typography>
      <NumberField
        label={t.off}
        unit={w.units.mm}
        min={0}
        max={5}
        value={mm}
        optional=""
        width={240}
        help={t.offHelp}
        onChange={setMM}
      />
      <Refusal error={seen.error} />
      <Typography
        role="status"
        sx={{ fontSize: '1.375rem', fontWeight: 600, my: 2, minHeight: 60 }}
      >
        {seen.data?.text}
      </Typography>
      <Typography variant="h3" gutterBottom sx={{ borderTop: 1, borderColor: 'divider', pt: 3 }}>
        {t.trueAngle}
      </Typography>
      <Typography sx={{ fontSize: '1.125rem', mb: 2 }}>{t.trueLead}</Typography>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'flex-start', flexWrap: 'wrap' }}>
        <NumbersField
          label={t.readings}
          measures={reads.angle}
          value={readings}
          min={-5}
          max={95}
          most={20}
          help={t.readingsHelp}
          bad={t.readingsBad}
          onChange={setReadings}
          width={300}
        />
        <Button
          disabled={readings.length === 0 || !line.data || set.isPending}
          onClick={keep}
          sx={{ minHeight: 64, minWidth: 160 }}
        >
          {t.keep}
        </Button>
      </Box>
      <Refusal error={set.error} />
    </Panel>
  );
}
