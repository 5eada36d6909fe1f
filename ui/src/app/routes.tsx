import LinearProgress from '@mui/material/LinearProgress';
import type { ComponentType } from 'react';
import { redirect, type RouteObject } from 'react-router';
import { lastOpen } from '../log/lastOpen';
import { w } from '../words/words';
import { NotFound, RoomFailed } from './RoomFailed';
import { Shell } from './Shell';

/** A room's code is fetched when the room is opened. The service worker holds all of it. */
const room = (load: () => Promise<ComponentType>): Pick<RouteObject, 'lazy'> => ({
  lazy: async () => ({ Component: await load() }),
});

const sheetOf = (of: 'diagrams' | 'stones' | 'runs') =>
  room(async () => {
    const { SheetRoom } = await import('../rooms/sheet/SheetRoom');
    return () => <SheetRoom of={of} />;
  });

const bench = {
  stone: () => import('../rooms/bench/BenchRoom'),
  run: () => import('../rooms/bench/RunBenchRoom'),
  repair: () => import('../rooms/bench/RepairBenchRoom'),
};

/** Fetches the bench's code ahead: once it is needed, the network may be away. */
export function fetchBench(): void {
  // Where one cannot be fetched now, opening the bench tries again.
  for (const load of Object.values(bench)) void load().catch(() => {});
}

/** The rooms, as the names of their folders say, and the address of each. */
const rooms: RouteObject[] = [
  { path: '/', ...room(async () => (await import('../rooms/today/TodayRoom')).TodayRoom) },
  { path: '/rough', ...room(async () => (await import('../rooms/rough/RoughRoom')).RoughRoom) },
  { path: '/rough/:id', ...room(async () => (await import('../rooms/rough/PieceRoom')).PieceRoom) },
  {
    path: '/rough/:id/beside',
    ...room(async () => (await import('../rooms/rough/CandidatesRoom')).CandidatesRoom),
  },
  {
    path: '/rough/:id/two',
    ...room(async () => (await import('../rooms/rough/TwoStonesRoom')).TwoStonesRoom),
  },
  {
    path: '/rough/:id/vary/:candidate',
    ...room(async () => (await import('../rooms/rough/VariantsRoom')).VariantsRoom),
  },
  {
    path: '/rough/:id/measure',
    ...room(async () => (await import('../rooms/rough/MeasureRoom')).MeasureRoom),
  },
  {
    path: '/diagrams',
    ...room(async () => (await import('../rooms/diagrams/DiagramsRoom')).DiagramsRoom),
  },
  {
    path: '/diagrams/import',
    ...room(async () => (await import('../rooms/import/ImportRoom')).ImportRoom),
  },
  {
    path: '/diagrams/compare',
    ...room(async () => (await import('../rooms/compare/CompareRoom')).CompareRoom),
  },
  {
    path: '/diagrams/:id',
    ...room(async () => (await import('../rooms/diagram/DiagramRoom')).DiagramRoom),
  },
  {
    path: '/diagrams/:id/angles',
    ...room(async () => (await import('../rooms/angles/AnglesRoom')).AnglesRoom),
  },
  {
    path: '/diagrams/:id/errors',
    ...room(async () => (await import('../rooms/errors/ErrorsRoom')).ErrorsRoom),
  },
  {
    path: '/diagrams/:id/light',
    ...room(async () => (await import('../rooms/light/LightRoom')).LightRoom),
  },
  {
    path: '/diagrams/:id/light/sweep',
    ...room(async () => (await import('../rooms/light/SweepRoom')).SweepRoom),
  },
  { path: '/diagrams/:id/sheet', ...sheetOf('diagrams') },
  {
    path: '/stones',
    ...room(async () => (await import('../rooms/stones/StonesRoom')).StonesRoom),
  },
  { path: '/stones/new', ...room(async () => (await import('../rooms/stones/PlanRoom')).PlanRoom) },
  {
    path: '/stones/:id',
    ...room(async () => (await import('../rooms/stones/StoneRoom')).StoneRoom),
  },
  {
    path: '/stones/:id/check',
    ...room(async () => (await import('../rooms/check/CheckRoom')).CheckRoom),
  },
  {
    path: '/stones/:id/dop',
    ...room(async () => (await import('../rooms/dopping/DoppingRoom')).DoppingRoom),
  },
  { path: '/stones/:id/sheet', ...sheetOf('stones') },
  {
    path: '/stones/:id/card',
    ...room(async () => (await import('../rooms/logbook/CardRoom')).CardRoom),
  },
  {
    path: '/stones/:id/print',
    ...room(async () => (await import('../rooms/logbook/PrintCardRoom')).PrintCardRoom),
  },
  {
    path: '/freehand/new',
    ...room(async () => (await import('../rooms/freehand/NewFreehandRoom')).NewFreehandRoom),
  },
  { path: '/runs/:id', ...room(async () => (await import('../rooms/stones/RunRoom')).RunRoom) },
  { path: '/runs/:id/sheet', ...sheetOf('runs') },
  {
    path: '/repairs/new',
    ...room(async () => (await import('../rooms/repairs/TakeInRoom')).TakeInRoom),
  },
  {
    path: '/repairs/:id',
    ...room(async () => (await import('../rooms/repairs/RepairRoom')).RepairRoom),
  },
  {
    path: '/recut',
    ...room(async () => (await import('../rooms/recut/RecutRoom')).RecutRoom),
  },
  {
    path: '/logbook',
    ...room(async () => (await import('../rooms/logbook/LogbookRoom')).LogbookRoom),
  },
  {
    path: '/kit/trials/:id/judge',
    ...room(async () => (await import('../rooms/kit/JudgeRoom')).JudgeRoom),
  },
  { path: '/kit', ...room(async () => (await import('../rooms/kit/KitRoom')).KitRoom) },
  {
    path: '/machine',
    ...room(async () => (await import('../rooms/machine/MachineRoom')).MachineRoom),
  },
  { path: '*', element: <NotFound /> },
];

const loading = { hydrateFallbackElement: <LinearProgress aria-label={w.common.loading} /> };

export const routes: RouteObject[] = [
  {
    element: <Shell />,
    errorElement: <RoomFailed />,
    ...loading,
    children: [{ errorElement: <RoomFailed />, children: rooms }],
  },
  // The bench has the whole screen.
  {
    errorElement: <RoomFailed />,
    ...loading,
    children: [
      {
        path: '/freehand/:id',
        ...room(async () => (await import('../rooms/freehand/FreehandRoom')).FreehandRoom),
      },
      { path: '/bench/:id', ...room(async () => (await bench.stone()).BenchRoom) },
      { path: '/bench/run/:id', ...room(async () => (await bench.run()).RunBenchRoom) },
      { path: '/bench/repair/:id', ...room(async () => (await bench.repair()).RepairBenchRoom) },
      // Where the installed application begins.
      { path: '/bench', loader: () => redirect(lastOpen() ?? '/') },
    ],
  },
];
