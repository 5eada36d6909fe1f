import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type MouseEvent } from 'react';
import type { BenchScript, LeanRequest } from '../../../api/client';
import { leanQuery, leanStone } from '../../../api/stones';
import type { BenchState } from '../../../log/standing';
import { NumberField } from '../../../parts/fields/NumberField';
import { reads } from '../../../parts/instruments/ReadingOffer';
import { Refusal } from '../../../parts/forms/Refusal';
import { shareIn } from '../../../parts/gestures/useDrag';
import { Care } from '../../../parts/Page';
import { StoneInWheel } from '../../../parts/stone/StoneInWheel';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { angle, plain, signed, thousandths } from '../../../words/numbers';
import { wheelWords as t } from '../../../words/wheel';
import { w } from '../../../words/words';
import { CorrectionBack } from '../CorrectionBack';
import { girdlePlanned } from '../girdle';
import { NudgeHow } from '../NudgeHow';
import { Panel } from '../Panel';
import type { Reread } from '../reread';
import { upOf } from '../../../parts/stone/setups';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  shown: number;
  reread: Reread;
  onClose: () => void;
}

/** A place of the girdle line that was looked at. */
interface Place {
  index: number | undefined;
  mm: number;
}

/** How many places are asked for: a lean has three figures, more of them are looked at twice. */
const mostPlaces = 6;

/** The girdle line after the first touch of the other side: level, or which way it is off and what helps. */
export function LeanPanel({ script, state, log, shown, reread, onClose }: Props) {
  const { setup } = script.visits[shown]!;
  const facet = script.facets[script.visits[shown]!.facet]!;
  const planned = girdlePlanned(script) ?? 0.3;
  const [places, setPlaces] = useState<Place[]>([
    { index: undefined, mm: Math.round(100 * (planned + 0.05)) / 100 },
    { index: undefined, mm: Math.round(100 * planned) / 100 },
  ]);
  const opposite = (index: number) => ((index + Math.round(script.gear / 2) - 1) % script.gear) + 1;
  // Where it is thickest, most often it is thinnest across: so it stays until somebody says otherwise.
  const [across, setAcross] = useState(true);
  const setIndex = (no: number, index: number | undefined) => {
    if (no === 1) setAcross(false);
    setPlaces(
      places.map((place, i) => {
        if (i === no) return { ...place, index };
        return i === 1 && no === 0 && across
          ? { ...place, index: index === undefined ? undefined : opposite(index) }
          : place;
      }),
    );
  };
  const setThick = (no: number, mm: number) =>
    setPlaces(places.map((place, i) => (i === no ? { ...place, mm } : place)));
  const readings = places.flatMap(({ index, mm }) => (index === undefined ? [] : [{ index, mm }]));
  const asked: LeanRequest | undefined =
    readings.length < 2 || readings.every((r) => r.mm === readings[0]!.mm)
      ? undefined
      : { setup, readings, straight: false, version: 0 };
  const seen = useQuery(leanQuery(script.stoneId, asked));
  const lean = useMutation(leanStone);
  const correct = (as: LeanRequest) =>
    lean.mutate(
      { ...as, stone: script.stoneId },
      {
        onSuccess: () => {
          // Heights that were read count no longer.
          log.add([{ kind: 'check', payload: { setup, item: 'leaning' } }]);
          void reread();
          onClose();
        },
      },
    );
  const tap = (e: MouseEvent<Element>) => {
    const [x, y] = shareIn(e.currentTarget, e);
    const turn = Math.atan2(x - 0.5, 0.5 - y) / (2 * Math.PI);
    const tooth = Math.round(turn * script.gear);
    setIndex(0, ((tooth - 1 + script.gear) % script.gear) + 1);
  };
  const data = asked && seen.data;
  const dial = readings.map((r) => ({ ...facet.dial, azimuth: (360 * r.index) / script.gear }));
  return (
    <Panel
      title={t.lean}
      lead={t.leanLead}
      onClose={onClose}
      picture={
        <Box sx={{ height: '100%', display: 'grid', gridTemplateRows: 'auto 1fr' }}>
          <Typography sx={{ textAlign: 'center', fontSize: '1.125rem' }}>{t.thickest}</Typography>
          {/* By keys the index is typed beside it. */}
          <Box
            onClick={tap}
            data-tap
            sx={{
              aspectRatio: '1',
              maxHeight: '100%',
              width: '100%',
              m: 'auto',
              cursor: 'crosshair',
            }}
          >
            <StoneInWheel
              mesh={script.mesh}
              step={state.step}
              up={upOf(script.setups[facet.setup]!)}
              wheel={script.wheel}
              lit={dial}
              label={t.thickest}
            />
          </Box>
        </Box>
      }
    >
      <CorrectionBack stone={script.stoneId} {...{ log, setup, reread, onClose }} />
      <Button
        variant="outlined"
        onClick={onClose}
        sx={{ minHeight: 72, minWidth: 260, fontSize: '1.25rem', mb: 2 }}
      >
        {t.level}
      </Button>
      <Typography sx={{ mb: 3 }}>{t.turned}</Typography>
      {places.map((place, no) => (
        <Box key={no} sx={{ display: 'flex', gap: 3, mb: 2 }}>
          <NumberField
            label={no === 0 ? t.thickestAt : t.placeAt(no + 1)}
            measures={reads.index}
            value={place.index}
            optional=""
            whole
            min={1}
            max={script.gear}
            onChange={(index) => setIndex(no, index)}
          />
          <NumberField
            label={no === 0 ? t.thick : t.thickAt(no + 1)}
            unit={w.units.mm}
            value={place.mm}
            min={0}
            max={20}
            onChange={(mm) => setThick(no, mm)}
          />
        </Box>
      ))}
      {places.length < mostPlaces && (
        <Button
          onClick={() => setPlaces([...places, { index: undefined, mm: planned }])}
          sx={{ minHeight: 64 }}
        >
          {t.otherPlace}
        </Button>
      )}
      <Refusal error={seen.error ?? lean.error} />
      {data && (
        <Box role="status" sx={{ mt: 2 }}>
          <Typography sx={{ fontSize: '1.375rem', fontWeight: 600, mb: 2 }}>
            {t.leansBy(angle(data.tilt), plain(Math.round(data.towards)))}
          </Typography>
          {data.off >= 0.02 && <Care>{t.unevenGirdle(thousandths(data.off))}</Care>}
          <Typography variant="h3">{t.nudge}</Typography>
          <NudgeHow towards={data.towards} teeth={script.gear} mm={data.nudge} />
          <Button
            disabled={lean.isPending || seen.isFetching}
            onClick={() => correct({ ...asked, straight: true, version: data.version })}
            sx={{ minHeight: 64, mb: 3 }}
          >
            {t.nudged}
          </Button>
          <Typography variant="h3">{t.byAngles}</Typography>
          <Typography>{t.byAnglesHow}</Typography>
          {data.tiers
            .filter((tier) => tier.tier === facet.tier)
            .map((tier) => (
              <Typography key={tier.tier} sx={{ my: 1 }}>
                {t.dialThen(tier.tier)}:{' '}
                <Typography component="span" variant="figures">
                  {tier.facets
                    .map(
                      (f) =>
                        `${f.tooth}${f.cheat ? ` (${signed(f.cheat)}°)` : ''} ${angle(f.angle)}°`,
                    )
                    .join(' · ')}
                </Typography>
              </Typography>
            ))}
          <Typography>{data.check}</Typography>
          <Button
            variant="contained"
            disabled={lean.isPending || seen.isFetching}
            onClick={() => correct({ ...asked, version: data.version })}
            sx={{ minHeight: 72, minWidth: 260, fontSize: '1.25rem', mt: 1 }}
          >
            {t.byAngles}
          </Button>
        </Box>
      )}
    </Panel>
  );
}
