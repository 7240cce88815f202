import { createTheme, type Theme } from "@mui/material/styles";
import { LAMP, PAPER, type Palette } from "../../chart/palette.ts";

export const SANS = '"Source Sans 3 Variable", "Source Sans 3", system-ui, sans-serif';
export const SERIF = '"Source Serif 4 Variable", "Source Serif 4", Georgia, serif';

declare module "@mui/material/styles" {
  interface Palette {
    compass: import("../../chart/palette.ts").Palette;
  }
  interface PaletteOptions {
    compass: import("../../chart/palette.ts").Palette;
  }
}

function scheme(compass: Palette) {
  return {
    palette: {
      compass,
      primary: { main: compass.ink, contrastText: compass.sheet },
      secondary: { main: compass.ink2, contrastText: compass.sheet },
      error: { main: compass.ink, contrastText: compass.sheet },
      text: { primary: compass.ink, secondary: compass.ink2, disabled: compass.ink3 },
      background: { default: compass.paper, paper: compass.sheet },
      divider: compass.rule,
    },
  };
}

const visibleFocus = { outline: "2px solid currentColor", outlineOffset: 2 };

/** Ink on paper, ink on a lamplit page: rules instead of boxes, no shadows, no ripples. */
export const theme: Theme = createTheme({
  cssVariables: { colorSchemeSelector: "data" },
  colorSchemes: { light: scheme(PAPER), dark: scheme(LAMP) },
  shape: { borderRadius: 2 },
  typography: {
    fontFamily: SANS,
    fontSize: 14,
    htmlFontSize: 16,
    h1: { fontFamily: SERIF, fontSize: "1.75rem", fontWeight: 600, lineHeight: 1.2, letterSpacing: "-0.01em" },
    h2: { fontFamily: SERIF, fontSize: "1.2rem", fontWeight: 600, lineHeight: 1.3 },
    h3: { fontFamily: SERIF, fontSize: "1.05rem", fontWeight: 600, lineHeight: 1.3 },
    body1: { fontSize: "0.95rem", lineHeight: 1.45 },
    body2: { fontSize: "0.875rem", lineHeight: 1.45 },
    caption: { fontSize: "0.8rem", lineHeight: 1.35 },
    button: { textTransform: "none", fontWeight: 600, letterSpacing: 0 },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: "tabular-nums lining-nums" },
        ":focus-visible": visibleFocus,
        a: { color: "inherit" },
      },
    },
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: { root: { "&:focus-visible": visibleFocus } },
    },
    MuiButton: {
      defaultProps: { disableElevation: true, size: "small", variant: "outlined" },
      styleOverrides: { root: { paddingBlock: 3, minWidth: 0, lineHeight: 1.5 } },
    },
    MuiTextField: { defaultProps: { size: "small", fullWidth: true, variant: "standard" } },
    MuiInput: {
      styleOverrides: {
        root: ({ theme: { vars } }) => ({
          fontSize: "0.925rem",
          "&::before": { borderColor: vars?.palette.divider },
          "&.Mui-focused::after": { borderBottomWidth: 2 },
        }),
      },
    },
    MuiInputLabel: { styleOverrides: { root: { "&.Mui-error": { color: "inherit" } } } },
    MuiFormHelperText: {
      styleOverrides: { root: { "&.Mui-error": { fontWeight: 600, "&::before": { content: '"\\2715\\00a0"' } } } },
    },
    MuiTableCell: {
      styleOverrides: {
        root: ({ theme: { vars } }) => ({ padding: "5px 8px", borderColor: vars?.palette.divider, fontSize: "0.9rem" }),
        head: ({ theme: { vars } }) => ({
          fontWeight: 600,
          fontSize: "0.8rem",
          color: vars?.palette.text.secondary,
          borderBottom: `1.5px solid ${vars?.palette.text.primary}`,
          lineHeight: 1.3,
        }),
      },
    },
    MuiMenuItem: { styleOverrides: { root: { fontSize: "0.925rem", minHeight: 0 } } },
    MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: "none" } } },
    MuiPopover: {
      defaultProps: { transitionDuration: 0 },
      styleOverrides: {
        paper: ({ theme: { vars } }) => ({ border: `1px solid ${vars?.palette.text.primary}`, boxShadow: "none" }),
      },
    },
    MuiDialog: {
      styleOverrides: {
        paper: ({ theme: { vars } }) => ({ border: `1px solid ${vars?.palette.text.primary}`, boxShadow: "none" }),
      },
    },
    MuiDialogTitle: { styleOverrides: { root: { fontFamily: SERIF, fontWeight: 600 } } },
    MuiTooltip: { defaultProps: { enterDelay: 500 } },
  },
});
