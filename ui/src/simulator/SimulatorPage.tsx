import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import { Refusal } from '../parts/forms/Refusal';
import { LevelBar } from '../parts/LevelBar';
import { useKeys } from '../parts/keys';
import { Care } from '../parts/Page';
import { StoneInWheel } from '../parts/stone/StoneInWheel';
import { faces } from '../theme/tokens';
import { angle, carats, plain } from '../words/numbers';
import { simulatorWords as t } from '../words/simulator';
import { Hands } from './Hands';
import { MachineDrawing } from './MachineDrawing';
import { MachineSound } from './sound';
import { useMachine, type Machine, type Scene } from './useMachine';

/** The machine under the hand: a stone is turned, lowered and ground, and its dials tell whoever listens. */
export function SimulatorPage() {
  const { machine, away } = useMachine();
  return (
    <Box component="main" sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          gap: 4,
          px: 4,
          py: 2,
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Typography variant="h1">{t.title}</Typography>
        {machine && (
          <Typography color="text.secondary">
            {t.lines(machine.scene.lines, machine.scene.readers)}
          </Typography>
        )}
      </Box>
      {away && <Care>{t.away}</Care>}
      {machine ? <AtTheMachine machine={machine} /> : <LinearProgress aria-label={t.title} />}
    </Box>
  );
}

function AtTheMachine({ machine }: { machine: Machine }) {
  const { scene, set } = machine;
  const { controls } = scene;
  const [sound, setSound] = useState<MachineSound>();
  const hear = () => {
    if (sound) {
      sound.stop();
      setSound(undefined);
      return;
    }
    const next = new MachineSound();
    next.start();
    setSound(next);
  };
  const { grain } = scene.laps[controls.lap]!;
  useEffect(
    () => sound?.follow(controls.rpm, scene.sound, grain),
    [sound, controls.rpm, scene.sound, grain],
  );
  useEffect(() => () => sound?.stop(), [sound]);
  const turn = (by: number) =>
    set({ tooth: ((controls.tooth - 1 + by + scene.setup.gear) % scene.setup.gear) + 1 });
  const mast = (by: number) => set({ height: hundredth(controls.height + by) });
  const swing = (by: number) => set({ angle: hundredth(controls.angle + by) });
  const repeats = true;
  useKeys([
    { keys: [' '], label: t.keys.down, run: () => set({ down: !controls.down }) },
    { keys: ['ArrowRight'], label: t.keys.tooth, run: () => turn(1), repeats },
    { keys: ['ArrowLeft'], label: t.keys.tooth, run: () => turn(-1), repeats },
    { keys: ['ArrowUp'], label: t.keys.mast, run: () => mast(0.01), repeats },
    { keys: ['ArrowDown'], label: t.keys.mast, run: () => mast(-0.01), repeats },
    { keys: ['PageUp'], label: t.keys.mastFast, run: () => mast(1), repeats },
    { keys: ['PageDown'], label: t.keys.mastFast, run: () => mast(-1), repeats },
    { keys: ['+'], label: t.keys.angle, run: () => swing(0.1), repeats },
    { keys: ['-'], label: t.keys.angle, run: () => swing(-0.1), repeats },
    { keys: ['t'], label: t.keys.touch, run: () => set({ height: scene.touching }) },
    { keys: ['s'], label: t.keys.sound, run: hear },
  ]);
  const { gear } = scene.setup;
  const wheel = useMemo(
    () =>
      Array.from({ length: gear }, (_, i) => ({
        index: i + 1,
        azimuth: ((i + 1) * 360) / gear,
        labelled: (i + 1) % (gear % 8 === 0 ? gear / 8 : Math.ceil(gear / 8)) === 0,
      })),
    [gear],
  );
  const onLap = useMemo(() => new Set(scene.face >= 0 ? [scene.face] : []), [scene.face]);
  return (
    <Box
      sx={{
        flexGrow: 1,
        minHeight: 0,
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)',
      }}
    >
      <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, p: 2 }}>
        <Box sx={{ flex: '5 1 0', minHeight: 0 }}>
          <MachineDrawing scene={scene} />
        </Box>
        <Box sx={{ flex: '6 1 0', minHeight: 0 }}>
          <StoneInWheel
            mesh={scene.stone}
            step={0}
            up={scene.up}
            wheel={wheel}
            current={{
              tooth: controls.tooth,
              cheat: controls.cheat,
              cheatTurns: 0,
              azimuth: (scene.index * 360) / gear,
            }}
            selected={onLap}
            label={t.stone}
          />
        </Box>
        <Typography color="text.secondary" sx={{ textAlign: 'center' }}>
          {t.up[scene.up]} · {t.facets(scene.facets)} · {carats(scene.carats)}
        </Typography>
      </Box>
      <Box sx={{ borderLeft: 1, borderColor: 'divider', overflow: 'auto', px: 4, pb: 3 }}>
        <Dials scene={scene} />
        <Refusal error={machine.error} />
        <Hands machine={machine} hearing={sound !== undefined} onHear={hear} />
      </Box>
    </Box>
  );
}

const hundredth = (v: number): number => Math.round(v * 100) / 100;

/** What the dials show, and what the quill does. */
function Dials({ scene }: { scene: Scene }) {
  const state = !scene.controls.down
    ? t.states.raised
    : scene.blocked
      ? t.states.blocked
      : scene.sound > 0
        ? t.states.grinding
        : scene.face >= 0
          ? t.states.atStop
          : t.states.off;
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, minmax(0, 1fr))', pt: 2 }}>
        <Dial label={t.angle}>{`${angle(scene.angle)}°`}</Dial>
        <Dial label={t.index}>{plain(scene.index)}</Dial>
        <Dial label={t.height}>{plain(scene.height)}</Dial>
      </Box>
      <Box sx={{ display: 'flex', gap: 4, alignItems: 'center', minHeight: 32 }}>
        <Typography role="status" data-state={state} sx={{ fontSize: '1.25rem', fontWeight: 600 }}>
          {state}
        </Typography>
        <Typography color="text.secondary">{scene.area > 0 && t.area(scene.area)}</Typography>
        <LevelBar label={t.sound} level={scene.sound} />
      </Box>
    </>
  );
}

function Dial({ label, children }: { label: string; children: string }) {
  return (
    <Box>
      <Typography color="text.secondary">{label}</Typography>
      <Typography
        component="p"
        data-dial={label}
        sx={{ fontFamily: faces.figures, fontWeight: 600, fontSize: '2.75rem', lineHeight: 1.1 }}
      >
        {children}
      </Typography>
    </Box>
  );
}
