import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript, Moved, MovedRequest } from '../../../api/client';
import { correctMoved, flushQuery, movedQuery } from '../../../api/stones';
import type { BenchState } from '../../../log/standing';
import { NumberField } from '../../../parts/fields/NumberField';
import { Refusal } from '../../../parts/forms/Refusal';
import { reads } from '../../../parts/instruments/ReadingOffer';
import { Care } from '../../../parts/Page';
import { StoneInWheel } from '../../../parts/stone/StoneInWheel';
import { useRested } from '../../../parts/useRested';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { movedWords as t } from '../../../words/moved';
import { angle } from '../../../words/numbers';
import { wheelWords } from '../../../words/wheel';
import { w } from '../../../words/words';
import { CorrectionBack } from '../CorrectionBack';
import { NudgeHow } from '../NudgeHow';
import { heardOf } from '../otherwise';
import { Panel } from '../Panel';
import type { Reread } from '../reread';
import { upOf } from '../../../parts/stone/setups';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  /** The setup that the stone sits in. */
  setup: string;
  reread: Reread;
  onClose: () => void;
}

/** How long nothing is typed before how the stone sits is asked, in ms. */
const still = 400;

interface Typed {
  angle?: number | undefined;
  index?: number | undefined;
}

/** How a stone sits that was put back: read off facets that are cut, and corrected for. */
export function MovedPanel({ script, state, log, setup, reread, onClose }: Props) {
  const flush = useQuery(flushQuery(script.stoneId, setup, heardOf(log)));
  const [typed, setTyped] = useState<Record<string, Typed>>({});
  const found = Object.entries(typed).flatMap(([facet, at]) =>
    at.angle === undefined || at.index === undefined
      ? []
      : [{ facet, angle: at.angle, index: at.index }],
  );
  const asked: MovedRequest | undefined =
    found.length < 2 ? undefined : { setup, found, version: 0 };
  // A figure that is half typed is no reading.
  const key = JSON.stringify(found);
  const rested = useRested(key, still);
  const told = useQuery({
    ...movedQuery(script.stoneId, asked),
    enabled: asked !== undefined && rested === key,
  });
  const correct = useMutation(correctMoved);
  const facets = flush.data?.facets ?? [];
  // The same readings may have been asked before: that answer is shown only once it is asked for again.
  const moved = asked && (rested === key ? told.data : undefined);
  const name = (id: string) => {
    const f = facets.find((each) => each.id === id);
    return f ? `${f.tier} ${f.tooth}` : id;
  };
  return (
    <Panel
      title={t.title}
      lead={t.lead}
      onClose={onClose}
      picture={
        <StoneInWheel
          mesh={script.mesh}
          step={state.step}
          up={upOf(script.setups.find((s) => s.id === setup)!)}
          wheel={script.wheel}
          // Those that were cut on the other side are dialled here as well.
          lit={facets.map((f) => ({
            tooth: f.tooth,
            azimuth: script.wheel.find((tooth) => tooth.index === f.tooth)!.azimuth,
            cheat: 0,
            cheatTurns: 0,
          }))}
          selected={new Set(facets.map((f) => f.face))}
          label={t.title}
        />
      }
    >
      {flush.isPending && <LinearProgress aria-label={w.common.loading} />}
      <Refusal error={flush.error ?? told.error ?? correct.error} />
      <CorrectionBack stone={script.stoneId} {...{ log, setup, reread, onClose }} />
      <Typography sx={{ mb: 2 }}>
        {facets.length > 0 ? t.enough : flush.data && t.nothing}
      </Typography>
      {facets.map((f) => {
        const at = found.findIndex((each) => each.facet === f.id);
        const off = moved?.residuals[at];
        return (
          <Box
            key={f.id}
            sx={{
              display: 'grid',
              gridTemplateColumns: '190px 140px 140px 1fr',
              gap: 2,
              alignItems: 'center',
              mb: 2,
            }}
          >
            <Typography sx={{ fontSize: '1.25rem' }}>
              {t.was(f.tier, f.tooth, angle(f.angle))}
            </Typography>
            <NumberField
              label={`${t.angle} ${f.tier} ${f.tooth}`}
              unit="°"
              measures={reads.angle}
              optional=""
              value={typed[f.id]?.angle}
              min={0}
              max={180}
              width="100%"
              onChange={(v) => setTyped({ ...typed, [f.id]: { ...typed[f.id], angle: v } })}
            />
            <NumberField
              label={`${t.index} ${f.tier} ${f.tooth}`}
              measures={reads.index}
              optional=""
              value={typed[f.id]?.index}
              min={0}
              max={script.gear}
              width="100%"
              onChange={(v) => setTyped({ ...typed, [f.id]: { ...typed[f.id], index: v } })}
            />
            {off !== undefined && (
              <Typography color={moved!.fits ? 'text.secondary' : 'error'}>{t.off(off)}</Typography>
            )}
          </Box>
        );
      })}
      {moved && (
        <Box role="status" sx={{ mt: 3 }}>
          <Typography sx={{ fontSize: '1.375rem', fontWeight: 600 }}>{sits(moved)}</Typography>
          {moved.fits ? (
            <Typography sx={{ mb: 2 }}>
              {t.fits} {t.uncertain(moved.uncertain)}
            </Typography>
          ) : (
            <Care>
              {moved.misread.length > 0
                ? t.misread(moved.misread.map((i) => name(found[i]!.facet)).join(' / '))
                : t.noFit}
            </Care>
          )}
          {moved.beyond.length > 0 && <Care>{t.beyond(moved.beyond.join(', '))}</Care>}
          <Typography variant="h3">{wheelWords.nudge}</Typography>
          <NudgeHow towards={moved.towards} teeth={script.gear} mm={moved.nudge} />
          <Button onClick={() => setTyped({})} sx={{ minHeight: 64, mb: 2 }}>
            {t.readAgain}
          </Button>
          <Typography variant="h3">{wheelWords.byAngles}</Typography>
          <Typography>{wheelWords.byAnglesHow}</Typography>
          <Typography sx={{ my: 1 }}>{moved.check}</Typography>
          <Button
            variant="contained"
            disabled={correct.isPending || told.isFetching || moved.beyond.length > 0}
            onClick={() =>
              correct.mutate(
                { ...asked, stone: script.stoneId, version: moved.version },
                {
                  onSuccess: () => {
                    // Heights that were read count no longer, and the stone is lined up.
                    log.add([
                      { kind: 'check', payload: { setup, item: 'leaning' } },
                      ...(state.gate === 'off-dop'
                        ? [
                            {
                              kind: 'check' as const,
                              payload: { setup, item: 'lined-up' as const },
                            },
                          ]
                        : []),
                    ]);
                    void reread().then(onClose);
                  },
                },
              )
            }
            sx={{ minHeight: 72, minWidth: 260, fontSize: '1.25rem' }}
          >
            {wheelWords.byAngles}
          </Button>
        </Box>
      )}
    </Panel>
  );
}

/** How the stone sits, in a sentence. */
function sits({ tilt, towards, twist }: Moved): string {
  const said = [
    ...(tilt >= 0.005 ? [t.leans(tilt, towards)] : []),
    ...(Math.abs(twist) >= 0.005 ? [t.twisted(twist)] : []),
  ];
  if (said.length === 0) return t.straight;
  const text = said.join(', and ');
  return `${text[0]!.toUpperCase()}${text.slice(1)}.`;
}
