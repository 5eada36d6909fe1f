import { createTheme, type Theme } from '@mui/material/styles';
import { dark, faces, light, type Tokens } from './tokens';

declare module '@mui/material/styles' {
  interface Theme {
    tokens: Tokens;
  }
  interface ThemeOptions {
    tokens?: Tokens;
  }
  interface TypographyVariants {
    figures: React.CSSProperties;
  }
  interface TypographyVariantsOptions {
    figures?: React.CSSProperties;
  }
}

declare module '@mui/material/Typography' {
  interface TypographyPropsVariantOverrides {
    figures: true;
  }
}

const still = {
  shortest: 0,
  shorter: 0,
  short: 0,
  standard: 0,
  complex: 0,
  enteringScreen: 0,
  leavingScreen: 0,
};

export type Scheme = 'light' | 'dark';

/** MUI gives behaviour and focus; the look is ours: hairlines, no shadows, square corners. */
export function makeTheme(scheme: Scheme): Theme {
  const t = scheme === 'light' ? light : dark;
  const line = `1px solid ${t.hairline}`;
  return createTheme({
    tokens: t,
    palette: {
      mode: scheme,
      primary: { main: t.copper, contrastText: t.sheet },
      secondary: { main: t.ember, contrastText: t.sheet },
      error: { main: t.alarm },
      warning: { main: t.ember },
      background: { default: t.paper, paper: t.sheet },
      text: { primary: t.ink, secondary: t.faint },
      divider: t.hairline,
    },
    // Motion only where it explains something; a dialog or a colour does not.
    transitions: { create: () => 'none', duration: still },
    spacing: 4,
    shape: { borderRadius: 2 },
    shadows: Array(25).fill('none') as Theme['shadows'],
    typography: {
      fontFamily: faces.words,
      fontSize: 15,
      h1: { fontSize: '1.5rem', fontWeight: 600 },
      h2: { fontSize: '1.125rem', fontWeight: 600 },
      h3: { fontSize: '1rem', fontWeight: 600 },
      button: { textTransform: 'none', fontWeight: 600 },
      figures: { fontFamily: faces.figures, fontVariantNumeric: 'tabular-nums' },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          '*:focus-visible': { outline: `2px solid ${t.copper}`, outlineOffset: 2 },
          'html, body, #root': { height: '100%' },
          // A printed sheet is the sheet alone, each page on its own.
          '@media print': {
            '.screen-only, header': { display: 'none !important' },
            main: { overflow: 'visible !important' },
            'html, body, #root': { height: 'auto', background: '#fff' },
            '.sheet-pages': { display: 'block !important', padding: '0 !important' },
            '.sheet-pages img': {
              display: 'block',
              width: '100% !important',
              border: '0 !important',
              breakAfter: 'page',
            },
            '@page': { margin: 0 },
          },
        },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { variant: 'outlined', color: 'inherit', disableElevation: true },
        styleOverrides: {
          root: { minHeight: 44, borderColor: t.hairline, whiteSpace: 'nowrap' },
          // What cannot be pressed must not look as if it could.
          contained: {
            '&.MuiButton-colorInherit:not(.Mui-disabled)': {
              background: t.ink,
              color: t.sheet,
            },
          },
        },
      },
      MuiIconButton: { styleOverrides: { root: { width: 44, height: 44, borderRadius: 2 } } },
      MuiTextField: { defaultProps: { size: 'small' } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiDialog: { styleOverrides: { paper: { border: `1px solid ${t.ink}` } } },
      MuiTooltip: {
        styleOverrides: { tooltip: { background: t.ink, color: t.sheet, fontSize: '0.875rem' } },
      },
      MuiTableCell: { styleOverrides: { root: { padding: '6px 8px', borderBottom: line } } },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            minHeight: 44,
            textTransform: 'none',
            color: t.ink,
            borderColor: t.hairline,
            '&.Mui-selected, &.Mui-selected:hover': { background: t.ink, color: t.sheet },
          },
        },
      },
    },
  });
}
