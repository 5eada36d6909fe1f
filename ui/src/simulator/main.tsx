import '@fontsource/atkinson-hyperlegible-next/latin-400.css';
import '@fontsource/atkinson-hyperlegible-next/latin-600.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-400.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-600.css';
import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { KeysProvider } from '../parts/keys';
import { NoticeProvider } from '../parts/notice';
import { makeTheme } from '../theme/theme';
import { SimulatorPage } from './SimulatorPage';

const dark = window.matchMedia('(prefers-color-scheme: dark)').matches;

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={makeTheme(dark ? 'dark' : 'light')}>
      <CssBaseline enableColorScheme />
      <QueryClientProvider client={new QueryClient()}>
        <NoticeProvider>
          <KeysProvider>
            <SimulatorPage />
          </KeysProvider>
        </NoticeProvider>
      </QueryClientProvider>
    </ThemeProvider>
  </StrictMode>,
);
