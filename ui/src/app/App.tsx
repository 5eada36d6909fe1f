import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useMemo } from 'react';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Unreachable } from '../api/client';
import { rereadStones } from '../api/stones';
import { onArrival } from '../log/browser';
import { makeTheme } from '../theme/theme';
import { KeysProvider } from '../parts/keys';
import { NoticeProvider } from '../parts/notice';
import { SchemeContext, useSchemeState } from './scheme';
import { routes } from './routes';

const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: (n, error) => error instanceof Unreachable && n < 2, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});

// What got onto the disk shows in lists and on pages of stones.
onArrival(() => void rereadStones(queries));

const router = createBrowserRouter(routes);

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
