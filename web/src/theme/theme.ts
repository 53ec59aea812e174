'use client';
import { createTheme, type ColorSystemOptions } from '@mui/material/styles';
import { DAY, FONT, NIGHT, type Tokens } from './tokens';

declare module '@mui/material/styles' {
  interface Palette {
    kit: Tokens;
  }
  interface PaletteOptions {
    kit?: Tokens;
  }
}

function scheme(tokens: Tokens): ColorSystemOptions {
  return {
    palette: {
      kit: tokens,
      primary: { main: tokens.sea, dark: tokens.seaPressed, contrastText: tokens.sheet },
      secondary: { main: tokens.signal, contrastText: tokens.sheet },
      error: { main: tokens.stop },
      warning: { main: tokens.warn },
      success: { main: tokens.good },
      info: { main: tokens.note },
      background: { default: tokens.paper, paper: tokens.sheet },
      text: { primary: tokens.ink, secondary: tokens.inkSoft },
      divider: tokens.line,
    },
  };
}

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme' },
  colorSchemes: { light: scheme(DAY), dark: scheme(NIGHT) },
  shape: { borderRadius: 6 },
  spacing: 4,
  typography: {
    fontFamily: FONT.text,
    fontSize: 14,
    h1: { fontFamily: FONT.title, fontSize: 26, fontWeight: 600 },
    h2: { fontFamily: FONT.title, fontSize: 16, fontWeight: 600 },
    h3: { fontFamily: FONT.title, fontSize: 14, fontWeight: 600 },
    body1: { fontSize: 14 },
    body2: { fontSize: 13 },
    caption: { fontSize: 12, lineHeight: 1.4 },
    button: { textTransform: 'none', fontWeight: 600 },
  },
  components: {
    MuiButton: { defaultProps: { disableElevation: true, size: 'small' } },
    MuiButtonBase: { defaultProps: { disableRipple: true }, styleOverrides: { root: { fontFamily: 'inherit' } } },
    MuiTextField: { defaultProps: { size: 'small', variant: 'outlined' } },
    MuiSelect: { defaultProps: { size: 'small' } },
    MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiMenu: {
      styleOverrides: {
        paper: ({ theme: t }) => ({ border: `1px solid ${t.vars!.palette.kit.line}`, background: t.vars!.palette.kit.card }),
      },
    },
    MuiDialog: {
      styleOverrides: {
        paper: ({ theme: t }) => ({ border: `1px solid ${t.vars!.palette.kit.line}`, background: t.vars!.palette.kit.card }),
      },
    },
    MuiTooltip: { defaultProps: { enterDelay: 400 } },
    MuiCssBaseline: {
      styleOverrides: (t) => ({
        '.figures': { fontFamily: FONT.figures, fontSize: '0.86em', fontVariantNumeric: 'tabular-nums' },
        ':focus-visible': { outline: `2px solid ${t.vars!.palette.kit.signal}`, outlineOffset: 1 },
        'html, body': { height: '100%', overflow: 'hidden' },
        '@media (prefers-reduced-motion: reduce)': { '*': { transition: 'none !important', animation: 'none !important' } },
      }),
    },
  },
});
