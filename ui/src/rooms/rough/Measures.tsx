import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import { ranges } from '../../api/ranges';
import type { Survey, Surveyed } from '../../api/rough';
import { NumberField } from '../../parts/fields/NumberField';
import { reads } from '../../parts/instruments/ReadingOffer';
import { PickField } from '../../parts/fields/PickField';
import { Row } from '../../parts/Row';
import { measureWords as k } from '../../words/measure';
import { mm } from '../../words/numbers';
import { Part } from './Part';
import { PhotoOutline } from './PhotoOutline';

interface Props {
  survey: Survey;
  got: Surveyed | undefined;
  onChange: (change: Partial<Survey>) => void;
}

/** Up to how many mm nobody minds what may stand out. */
const closeEnough = 0.3;

const drop = <T,>(list: readonly T[], no: number): T[] => list.filter((_, i) => i !== no);

/** Touches of the lap: the one that would tell most comes first, and those that were made. */
export function Touches({ survey, got, onChange }: Props) {
  const [place, setPlace] = useState<{ angle: number; index: number }>();
  const [height, setHeight] = useState<number>();
  // The field begins anew with every touch.
  const [made, setMade] = useState(0);
  const next = place ?? (got && { angle: got.nextAngle, index: got.nextIndex });
  const ready = survey.known.length > 1 && height !== undefined && next !== undefined;
  const add = () => {
    if (!ready) return;
    onChange({ touches: [...survey.touches, { ...next, height }] });
    setHeight(undefined);
    setPlace(undefined);
    setMade((n) => n + 1);
  };
  return (
    <Part head={k.next.head}>
      {got && got.most !== null && got.most < closeEnough && (
        <Typography sx={{ mb: 2 }}>{k.next.enough(mm(got.most))}</Typography>
      )}
      {next && (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            add();
          }}
        >
          <Typography variant="figures" component="p" sx={{ fontSize: '1.75rem', mb: 2 }}>
            {k.next.set(next.angle, next.index)}
          </Typography>
          <Row>
            <NumberField
              key={made}
              label={k.next.height}
              measures={reads.height}
              unit="mm"
              {...ranges.RoughTouch.height}
              value={height}
              optional=""
              onChange={setHeight}
              width={150}
            />
            <Button type="submit" variant="contained" disabled={!ready} sx={{ minHeight: 44 }}>
              {k.next.add}
            </Button>
            {!place && <Button onClick={() => setPlace(next)}>{k.next.other}</Button>}
            {place && (
              <>
                <NumberField
                  label={k.next.angle}
                  unit="°"
                  {...ranges.RoughTouch.angle}
                  value={place.angle}
                  onChange={(angle) => setPlace({ ...place, angle })}
                  width={120}
                />
                <NumberField
                  label={k.next.index}
                  measures={reads.index}
                  min={0}
                  max={survey.gear}
                  value={place.index}
                  onChange={(index) => setPlace({ ...place, index })}
                  width={120}
                />
              </>
            )}
          </Row>
        </form>
      )}
      {got && got.ahead.length > 0 && (
        <Typography color="text.secondary" sx={{ mt: 2 }}>
          {k.next.ahead} {got.ahead.map((t) => k.next.short(t.angle, t.index)).join(' · ')}
        </Typography>
      )}
      <Made
        names={survey.touches.map((t) => k.touch(t.angle, t.index, t.height))}
        took={got?.took.slice(0, survey.touches.length)}
        onRemove={(i) => onChange({ touches: drop(survey.touches, i) })}
      />
    </Part>
  );
}

/** The first directions for calipers alone: two across, and up. */
const acrossFirst = [
  [90, 1],
  [90, 0.25],
  [0, 1],
] as const;

/** Widths by calipers: from where it was touched, or without touches and outlines across three directions. */
export function Widths({ survey, got, onChange }: Props) {
  const [from, setFrom] = useState(0);
  const [reading, setReading] = useState<number>();
  const [made, setMade] = useState(0);
  const alone = survey.touches.length === 0 && survey.outlines.length === 0;
  const [share, turn] = [acrossFirst[survey.widths.length], survey.gear];
  const [free, setFree] = useState<{ angle: number; index: number }>();
  const proposed = share && { angle: share[0], index: Math.round(share[1] * turn) };
  const at = alone ? (free ?? proposed) : survey.touches[from];
  const add = () => {
    if (reading === undefined || !at) return;
    onChange({ widths: [...survey.widths, { angle: at.angle, index: at.index, reading }] });
    setReading(undefined);
    setFree(undefined);
    setMade((n) => n + 1);
  };
  const before = survey.touches.length;
  return (
    <Part head={k.widths.head}>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {alone ? k.widths.alone : k.widths.lead}
      </Typography>
      {at && (
        <Row>
          {alone ? (
            (['angle', 'index'] as const).map((field) => (
              <NumberField
                key={`${field}${made}`}
                label={k.widths[field]}
                {...ranges.RoughWidth[field]}
                value={at[field]}
                onChange={(v) => setFree({ ...at, [field]: v })}
                width={110}
              />
            ))
          ) : (
            <PickField
              label={k.widths.from}
              value={from}
              options={survey.touches.map((t, value) => ({
                value,
                name: k.next.set(t.angle, t.index),
              }))}
              onChange={setFrom}
              width={230}
            />
          )}
          <NumberField
            key={made}
            label={k.widths.reading}
            measures={reads.calipers}
            unit="mm"
            {...ranges.RoughWidth.reading}
            value={reading}
            optional=""
            onChange={setReading}
            width={190}
          />
          <Button onClick={add} disabled={reading === undefined} sx={{ minHeight: 44 }}>
            {k.widths.add}
          </Button>
        </Row>
      )}
      <Made
        names={survey.widths.map((x) => k.widths.one(x.angle, x.index, x.reading))}
        took={got?.took.slice(before, before + survey.widths.length)}
        onRemove={(i) => onChange({ widths: drop(survey.widths, i) })}
      />
    </Part>
  );
}

/** Outlines of photos that were taken at known turns. */
export function Outlines({ survey, got, onChange }: Props) {
  const [adding, setAdding] = useState(false);
  const before = survey.touches.length + survey.widths.length;
  return (
    <Part head={k.outlines.head} add={k.outlines.add} onAdd={() => setAdding(true)}>
      <Typography color="text.secondary">{k.outlines.lead}</Typography>
      <Made
        names={survey.outlines.map((o) => k.outlines.one(o.index, o.corners.length / 2))}
        took={got?.took.slice(before)}
        onRemove={(i) => onChange({ outlines: drop(survey.outlines, i) })}
      />
      {adding && (
        <PhotoOutline
          gear={survey.gear}
          onKeep={(o) => {
            setAdding(false);
            onChange({ outlines: [...survey.outlines, o] });
          }}
          onClose={() => setAdding(false)}
        />
      )}
    </Part>
  );
}

interface MadeProps {
  names: string[];
  /** What each took away, in mm³; undefined while that is not known. */
  took: number[] | undefined;
  onRemove: (place: number) => void;
}

/** Measures that were made, each with what it took away. */
function Made({ names, took, onRemove }: MadeProps): ReactNode {
  return (
    <Box component="ul" sx={{ m: 0, mt: 2, p: 0, listStyle: 'none' }}>
      {names.map((name, i) => (
        <Box
          component="li"
          key={i}
          sx={{
            display: 'flex',
            gap: 3,
            alignItems: 'center',
            borderTop: 1,
            borderColor: 'divider',
          }}
        >
          <Typography variant="figures" sx={{ flexGrow: 1 }}>
            {name}
          </Typography>
          <Typography color="text.secondary">
            {took?.[i] !== undefined && k.took(took[i])}
          </Typography>
          <Button size="small" onClick={() => onRemove(i)} aria-label={k.remove(name)}>
            ✕
          </Button>
        </Box>
      ))}
    </Box>
  );
}
