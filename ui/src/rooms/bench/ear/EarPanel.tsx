import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { BenchScript } from '../../../api/client';
import type { Ear, Hearing } from '../../../ear/ear';
import { bandOf } from '../../../ear/hearing';
import { live } from '../../../live/browser';
import { useInstruments } from '../../../parts/instruments/useReadings';
import { Care } from '../../../parts/Page';
import { passName } from '../../../parts/work/visitWords';
import { earWords as t } from '../../../words/ear';
import { Panel } from '../Panel';
import { LevelBar } from '../../../parts/LevelBar';
import { TurnRing } from './TurnRing';
import { useHearing } from './useEar';

interface Props {
  script: BenchScript;
  ear: Ear;
  shown: number;
  onClose: () => void;
}

const large = { minHeight: 64, minWidth: 260, fontSize: '1.25rem' };

/** The ear: let to listen, taught this stone on this lap, and asked where a stone that is turned by hand hits. */
export function EarPanel({ script, ear, shown, onClose }: Props) {
  const hearing = useHearing(ear);
  const { state } = hearing;
  const pass = passName(script, script.visits[shown]!.pass);
  return (
    <Panel title={t.title} lead={t.lead} onClose={onClose}>
      <Typography sx={{ mb: 4 }}>{t.privacy}</Typography>
      {state === 'on' ? (
        <Listening {...{ script, ear, hearing, pass }} />
      ) : (
        <>
          {state !== 'off' && state !== 'opening' && <Care>{t.deaf[state]}</Care>}
          <Button
            variant="contained"
            disabled={state === 'opening'}
            onClick={() => void ear.listen()}
            sx={large}
          >
            {state === 'opening' ? t.opening : t.listen}
          </Button>
        </>
      )}
    </Panel>
  );
}

/** The microphone gives decibels before anything is learned: what a bar shows of them. */
const rough = (dB: number): number => (dB + 90) / 70;

interface ListeningProps {
  script: BenchScript;
  ear: Ear;
  hearing: Hearing;
  pass: string;
}

function Listening({ script, ear, hearing, pass }: ListeningProps) {
  const { level, learning, alike, grinding } = hearing;
  const learned = ear.knows();
  return (
    <>
      <Box sx={{ display: 'flex', gap: 4, alignItems: 'center', mb: 4 }} data-level={level}>
        <LevelBar label={t.level} level={learned ? level : rough(level)} high={28} />
        <Typography role="status" sx={{ fontSize: '1.5rem', fontWeight: 600 }}>
          {learned && (grinding ? t.grinding : t.quiet)}
        </Typography>
        <Button onClick={() => ear.stop()} sx={{ minHeight: 64, ml: 'auto' }}>
          {t.stop}
        </Button>
      </Box>
      <Typography sx={{ fontSize: '1.25rem', mb: 3 }} data-learned={learned !== undefined}>
        {learned ? t.learned(...bandOf(learned), pass) : t.notLearned(pass)}
      </Typography>
      {alike && <Care>{t.alike}</Care>}
      {learned ? (
        <>
          <Button onClick={() => ear.know(undefined)} sx={{ minHeight: 64 }}>
            {t.forget}
          </Button>
          <Rounding script={script} ear={ear} hearing={hearing} />
        </>
      ) : (
        <>
          <Lesson
            lead={t.idle}
            progress={learning === 'idle' ? hearing.progress : undefined}
            done={hearing.idle}
          >
            <Button
              variant={hearing.idle ? 'outlined' : 'contained'}
              disabled={learning !== undefined}
              onClick={() => ear.learn('idle')}
              sx={large}
            >
              {t.learnIdle}
            </Button>
          </Lesson>
          <Lesson
            lead={t.cutting}
            progress={learning === 'cutting' ? hearing.progress : undefined}
            done={false}
          >
            <Button
              variant={hearing.idle ? 'contained' : 'outlined'}
              disabled={learning !== undefined || !hearing.idle}
              onClick={() => ear.learn('cutting')}
              sx={large}
            >
              {t.learnCutting}
            </Button>
          </Lesson>
        </>
      )}
    </>
  );
}

/** One step of the learning. */
function Lesson(props: {
  lead: string;
  progress: number | undefined;
  done: boolean;
  children: ReactNode;
}) {
  const { lead, progress, done, children } = props;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 4, mb: 3, maxWidth: 860 }}>
      <Box sx={{ alignSelf: 'center' }}>
        <Typography sx={{ fontSize: '1.25rem' }}>
          {done && '✓ '}
          {lead}
        </Typography>
        {progress !== undefined && (
          <LinearProgress
            variant="determinate"
            value={100 * progress}
            aria-label={t.learning}
            sx={{ mt: 1, height: 8 }}
          />
        )}
      </Box>
      {children}
    </Box>
  );
}

/** Where a stone that is turned by hand hits: by the index dial, or by taps where none is read. */
function Rounding({ script, ear, hearing }: Omit<ListeningProps, 'pass'>) {
  const [on, setOn] = useState(false);
  const hasDial = useInstruments().some((i) => i.here && i.now.some((r) => r.quantity === 'index'));
  const taps = useRef<{ last: number; turn: number | undefined }>(undefined);
  useEffect(() => {
    if (!on) return ear.turnBy(() => undefined);
    ear.turnBy(() => {
      const dial = live.readings().get('index');
      if (dial) return dial.value / script.gear;
      const { last, turn } = taps.current ?? {};
      return turn && last ? (performance.now() - last) / turn : undefined;
    });
    return () => ear.turnBy(() => undefined);
  }, [ear, on, script.gear]);
  const tap = () => {
    const now = performance.now();
    const before = taps.current?.last;
    taps.current = { last: now, turn: before === undefined ? undefined : now - before };
  };
  return (
    <Box sx={{ mt: 4 }}>
      <FormControlLabel
        control={<Switch checked={on} onChange={(_, is) => setOn(is)} />}
        label={t.rounding}
        sx={{ minHeight: 64, '& .MuiFormControlLabel-label': { fontSize: '1.25rem' } }}
      />
      {on && (
        <Box sx={{ display: 'flex', gap: 6, alignItems: 'center' }}>
          <TurnRing parts={hearing.turn} />
          <Box sx={{ maxWidth: 420 }}>
            <Typography>{t.ringLead}</Typography>
            <Typography color="text.secondary" sx={{ my: 2 }}>
              {hasDial ? t.byDial : t.byTaps}
            </Typography>
            {!hasDial && (
              <Button onClick={tap} sx={large}>
                {t.tap}
              </Button>
            )}
          </Box>
        </Box>
      )}
    </Box>
  );
}
