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
import type { Side } from '../../../parts/stone/geometry';
import { StoneInWheel } from '../../../parts/stone/StoneInWheel';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { angle, signed, thousandths } from '../../../words/numbers';
import { wheelWords as t } from '../../../words/wheel';
import { w } from '../../../words/words';
import { girdlePlanned } from '../girdle';
import { Panel } from '../Panel';
import type { Reread } from '../reread';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  shown: number;
  reread: Reread;
  onClose: () => void;
}

/** The girdle line after the first touch of the other side: level, or which way it is off and what helps. */
export function LeanPanel({ script, state, log, shown, reread, onClose }: Props) {
  const { setup } = script.visits[shown]!;
  const facet = script.facets[script.visits[shown]!.facet]!;
  const planned = girdlePlanned(script) ?? 0.3;
  const [towards, setTowards] = useState<number>();
  const [thick, setThick] = useState(Math.round(100 * (planned + 0.05)) / 100);
  const [thin, setThin] = useState(Math.round(100 * planned) / 100);
  const asked: LeanRequest | undefined =
    towards === undefined || thick <= thin
      ? undefined
      : { setup, thick, thin, towards, version: 0 };
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
    setTowards(((tooth - 1 + script.gear) % script.gear) + 1);
  };
  const data = asked && seen.data;
  const dial =
    towards === undefined ? [] : [{ ...facet.dial, azimuth: (360 * towards) / script.gear }];
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
              up={script.setups[facet.setup]!.up as Side}
              wheel={script.wheel}
              lit={dial}
              label={t.thickest}
            />
          </Box>
        </Box>
      }
    >
      <Button
        variant="outlined"
        onClick={onClose}
        sx={{ minHeight: 72, minWidth: 260, fontSize: '1.25rem', mb: 2 }}
      >
        {t.level}
      </Button>
      <Typography sx={{ mb: 3 }}>{t.turned}</Typography>
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap' }}>
        <NumberField
          label={t.thickestAt}
          measures={reads.index}
          value={towards}
          optional=""
          whole
          min={1}
          max={script.gear}
          onChange={setTowards}
        />
        <NumberField
          label={t.thick}
          unit={w.units.mm}
          value={thick}
          min={0}
          max={20}
          onChange={setThick}
        />
        <NumberField
          label={t.thin}
          unit={w.units.mm}
          value={thin}
          min={0}
          max={20}
          onChange={setThin}
        />
      </Box>
      <Refusal error={seen.error ?? lean.error} />
      {data && (
        <Box role="status" sx={{ mt: 2 }}>
          <Typography sx={{ fontSize: '1.375rem', fontWeight: 600, mb: 2 }}>
            {t.leansBy(angle(data.tilt), String(towards))}
          </Typography>
          <Typography variant="h3">{t.nudge}</Typography>
          <Typography sx={{ mb: 1 }}>
            {t.nudgeHow(
              thousandths(data.nudge),
              String(towards),
              String(((towards! + Math.round(script.gear / 2) - 1) % script.gear) + 1),
            )}
          </Typography>
          <Button
            disabled={lean.isPending}
            onClick={() => correct({ ...asked, thick: thin, version: data.version })}
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
          <Button
            variant="contained"
            disabled={lean.isPending}
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
