import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { ranges } from '../../api/ranges';
import type { Survey } from '../../api/rough';
import { NumberField } from '../../parts/fields/NumberField';
import { reads } from '../../parts/instruments/ReadingOffer';
import { PickField } from '../../parts/fields/PickField';
import { Row } from '../../parts/Row';
import { machineWords } from '../../words/machine';
import { measureWords } from '../../words/measure';
import { Part } from './Part';

const k = measureWords.dial;

type Known = Survey['known'];

interface Props {
  survey: Survey;
  onChange: (change: Partial<Survey>) => void;
}

/** How far the rim of a bare dop's end lies from its middle, towards the lap, at an angle in degrees. */
const rimAt = (angle: number, across: number) => (across / 2) * Math.sin((angle * Math.PI) / 180);

/** What tells the height dial: the gear, how well a figure is read, and two touches of something known. */
export function DialFields({ survey, onChange }: Props) {
  const [way, setWay] = useState<'bare' | 'facet'>('bare');
  const [across, setAcross] = useState(() => widthOf(survey.known));
  const rows = [0, 1].map((i) => survey.known[i]);
  const angles = [0, 90];
  const set = (i: number, change: Partial<Known[number]>) => {
    const all = rows.map((r, n) => {
      const angle = (n === i ? change.angle : undefined) ?? r?.angle ?? angles[n]!;
      const was = r ?? (n === i ? { angle, distance: 0, height: 0 } : undefined);
      if (!was) return undefined;
      const next = { ...was, ...(n === i ? change : {}), angle };
      return way === 'bare' ? { ...next, distance: rimAt(angle, across) } : next;
    });
    onChange({ known: all.filter((r) => r !== undefined) });
  };
  const widen = (mm: number) => {
    setAcross(mm);
    onChange({ known: survey.known.map((r) => ({ ...r, distance: rimAt(r.angle, mm) })) });
  };
  return (
    <Part head={k.head}>
      <Typography color="text.secondary" sx={{ mb: 3, maxWidth: 640 }}>
        {k.lead}
      </Typography>
      <Row>
        <NumberField
          label={k.gear}
          {...ranges.RoughSurvey.gear}
          whole
          value={survey.gear}
          onChange={(gear) => onChange({ gear })}
          width={100}
        />
        <NumberField
          label={k.reading}
          unit="mm"
          measures={reads.height}
          {...ranges.RoughSurvey.reading}
          value={survey.reading}
          onChange={(reading) => onChange({ reading })}
          width={190}
        />
        <PickField
          label={machineWords.heightSense}
          value={survey.lowers ? 'lowers' : 'lifts'}
          options={machineWords.heightSenses}
          onChange={(v) => onChange({ lowers: v === 'lowers' })}
          width={190}
        />
        <PickField
          label={k.what}
          value={way}
          options={k.ways}
          onChange={(v) => setWay(v as 'bare' | 'facet')}
          width={190}
        />
        {way === 'bare' && (
          <NumberField
            label={k.dop}
            unit="mm"
            min={0.5}
            max={100}
            value={across}
            onChange={widen}
            width={170}
          />
        )}
      </Row>
      <Box sx={{ mt: 3, display: 'grid', gap: 2 }}>
        {rows.map((r, i) => {
          const angle = r?.angle ?? angles[i]!;
          return (
            <Row key={i}>
              <NumberField
                label={k.angle(i + 1)}
                unit="°"
                {...ranges.KnownTouch.angle}
                value={angle}
                onChange={(a) => set(i, { angle: a })}
                width={150}
              />
              {way === 'facet' && (
                <NumberField
                  label={k.distance(i + 1)}
                  unit="mm"
                  {...ranges.KnownTouch.distance}
                  value={r?.distance ?? 0}
                  onChange={(distance) => set(i, { distance })}
                  width={180}
                />
              )}
              <NumberField
                label={k.height(angle)}
                unit="mm"
                {...ranges.KnownTouch.height}
                value={r?.height}
                optional=""
                onChange={(height) => {
                  if (height !== undefined) set(i, { height });
                }}
                width={150}
              />
            </Row>
          );
        })}
      </Box>
    </Part>
  );
}

/** How wide a bare dop is whose rim was touched, a usual one where nothing was. */
function widthOf(known: Known): number {
  const k = known.find((r) => r.angle >= 45 && r.distance > 0);
  return k ? Math.round((2e3 * k.distance) / Math.sin((k.angle * Math.PI) / 180)) / 1e3 : 6;
}
