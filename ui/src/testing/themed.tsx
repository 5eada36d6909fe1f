import { ThemeProvider } from '@mui/material/styles';
import type { ReactNode } from 'react';
import { makeTheme } from '../theme/theme';

const theme = makeTheme('light');

/** What drawings need around them in a test. */
export function Themed({ children }: { children: ReactNode }) {
  return <ThemeProvider theme={theme}>{children}</ThemeProvider>;
}
