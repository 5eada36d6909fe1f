import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useMemo } from 'react';
import { createBrowserRouter, redirect, RouterProvider } from 'react-router';
import { Unreachable } from '../api/client';
import { stonesKey } from '../api/queries';
import { onArrival } from '../log/browser';
import { RepairBenchRoom } from '../rooms/bench/RepairBenchRoom';
import { RepairRoom } from '../rooms/repairs/RepairRoom';
import { TakeInRoom } from '../rooms/repairs/TakeInRoom';
import { RunBenchRoom } from '../rooms/bench/RunBenchRoom';
import { RunRoom } from '../rooms/stones/RunRoom';
import { lastOpen } from '../rooms/bench/aside';
import { BenchRoom } from '../rooms/bench/BenchRoom';
import { DiagramRoom } from '../rooms/diagrams/DiagramRoom';
import { CompareRoom } from '../rooms/diagrams/CompareRoom';
import { ImportRoom } from '../rooms/diagrams/ImportRoom';
import { SheetRoom } from '../rooms/diagrams/SheetRoom';
import { LibraryRoom } from '../rooms/diagrams/LibraryRoom';
import { AnglesRoom } from '../rooms/judging/AnglesRoom';
import { ErrorsRoom } from '../rooms/judging/ErrorsRoom';
import { SweepRoom } from '../rooms/light/SweepRoom';
import { CardRoom } from '../rooms/logbook/CardRoom';
import { LogbookRoom } from '../rooms/logbook/LogbookRoom';
import { MachineRoom } from '../rooms/machine/MachineRoom';
import { PlanRoom } from '../rooms/stones/PlanRoom';
import { StoneRoom } from '../rooms/stones/StoneRoom';
import { StonesRoom } from '../rooms/stones/StonesRoom';
import { TodayRoom } from '../rooms/today/TodayRoom';
import { makeTheme } from '../theme/theme';
import { KeysProvider } from './keys';
import { NoticeProvider } from './notice';
import { NotFound, RoomFailed } from './RoomFailed';
import { SchemeContext, useSchemeState } from './scheme';
import { Shell } from './Shell';

const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: (n, error) => error instanceof Unreachable && n < 2, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});

// What got onto the disk shows in lists and on pages of stones.
onArrival(() => void queries.invalidateQueries({ queryKey: stonesKey }));

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <RoomFailed />,
    children: [
      {
        errorElement: <RoomFailed />,
        children: [
          { path: '/', element: <TodayRoom /> },
          { path: '/diagrams', element: <LibraryRoom /> },
          { path: '/diagrams/import', element: <ImportRoom /> },
          { path: '/diagrams/compare', element: <CompareRoom /> },
          { path: '/diagrams/:id', element: <DiagramRoom /> },
          { path: '/diagrams/:id/angles', element: <AnglesRoom /> },
          { path: '/diagrams/:id/errors', element: <ErrorsRoom /> },
          // Its charts are large, and no other room has any.
          {
            path: '/diagrams/:id/light',
            lazy: async () => ({ Component: (await import('../rooms/light/LightRoom')).LightRoom }),
          },
          { path: '/diagrams/:id/light/sweep', element: <SweepRoom /> },
          { path: '/diagrams/:id/sheet', element: <SheetRoom of="diagrams" /> },
          { path: '/stones', element: <StonesRoom /> },
          { path: '/stones/new', element: <PlanRoom /> },
          { path: '/stones/:id', element: <StoneRoom /> },
          { path: '/stones/:id/sheet', element: <SheetRoom of="stones" /> },
          { path: '/repairs/new', element: <TakeInRoom /> },
          { path: '/repairs/:id', element: <RepairRoom /> },
          { path: '/runs/:id', element: <RunRoom /> },
          { path: '/runs/:id/sheet', element: <SheetRoom of="runs" /> },
          { path: '/stones/:id/card', element: <CardRoom /> },
          { path: '/logbook', element: <LogbookRoom /> },
          { path: '/machine', element: <MachineRoom /> },
          { path: '*', element: <NotFound /> },
        ],
      },
    ],
  },
  {
    path: '/bench/repair/:id',
    element: <RepairBenchRoom />,
    errorElement: <RoomFailed />,
  },
  { path: '/bench/run/:id', element: <RunBenchRoom />, errorElement: <RoomFailed /> },
  // Where the installed application begins.
  { path: '/bench', loader: () => redirect(lastOpen() ?? '/') },
  { path: '/bench/:id', element: <BenchRoom />, errorElement: <RoomFailed /> },
]);

export function App() {
  const scheme = useSchemeState();
  const theme = useMemo(() => makeTheme(scheme.scheme), [scheme.scheme]);
  return (
    <SchemeContext value={scheme}>
      <ThemeProvider theme={theme}>
        <CssBaseline enableColorScheme />
        <QueryClientProvider client={queries}>
          <NoticeProvider>
            <KeysProvider>
              <RouterProvider router={router} />
            </KeysProvider>
          </NoticeProvider>
        </QueryClientProvider>
      </ThemeProvider>
    </SchemeContext>
  );
}
