import CssBaseline from "@mui/material/CssBaseline";
import { createTheme, ThemeProvider } from "@mui/material/styles";
import useMediaQuery from "@mui/material/useMediaQuery";
import { createContext, useContext, useMemo, useState, type ReactNode } from "react";
import { keep, kept } from "../state/kept";
import { type Colours, day, lamplight } from "./colours";

interface LookState {
  colours: Colours;
  dark: boolean;
  toggle: () => void;
}

const LookContext = createContext<LookState | null>(null);
const KEY = "metaspira-look";

export function useLook(): LookState {
  const look = useContext(LookContext);
  if (!look) throw new Error("useLook stands outside of Look");
  return look;
}

/** The theme, its colours, and the switch between day and lamplight (kept in this browser). */
export function Look({ children }: { children: ReactNode }) {
  const prefersDark = useMediaQuery("(prefers-color-scheme: dark)");
  const [chosen, setChosen] = useState(() => kept(KEY));
  const dark = chosen === null ? prefersDark : chosen === "lamplight";
  const colours = dark ? lamplight : day;
  const theme = useMemo(() => themeOf(colours, dark), [colours, dark]);
  const state = useMemo(
    () => ({
      colours,
      dark,
      toggle: () => {
        const next = dark ? "day" : "lamplight";
        keep(KEY, next);
        setChosen(next);
      },
    }),
    [colours, dark],
  );
  return (
    <LookContext.Provider value={state}>
      <ThemeProvider theme={theme}>
        <CssBaseline />
        {children}
      </ThemeProvider>
    </LookContext.Provider>
  );
}

function themeOf(colours: Colours, dark: boolean) {
  const serif = '"Source Serif 4 Variable", Georgia, serif';
  return createTheme({
    palette: {
      mode: dark ? "dark" : "light",
      background: { default: colours.paper, paper: colours.sheet },
      text: { primary: colours.ink, secondary: colours.pencil },
      divider: colours.line,
      primary: { main: colours.copper, contrastText: colours.onCopper },
      success: { main: colours.clear },
      warning: { main: colours.watch },
      error: { main: colours.stop },
    },
    shape: { borderRadius: 3 },
    typography: {
      fontFamily: '"Source Sans 3 Variable", "Helvetica Neue", sans-serif',
      fontSize: 13,
      h1: { fontFamily: serif, fontSize: "1.5rem", fontWeight: 600 },
      h2: { fontFamily: serif, fontSize: "1.02rem", fontWeight: 600 },
      h3: { fontSize: "0.9rem", fontWeight: 600 },
      button: { textTransform: "none", fontWeight: 600 },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          body: { fontVariantNumeric: "tabular-nums", overflowX: "hidden" },
          a: { color: colours.copper },
          ".plain-action": {
            border: 0,
            background: "none",
            color: colours.copper,
            font: "inherit",
            fontSize: "0.8125rem",
            fontWeight: 600,
            cursor: "pointer",
          },
          ":focus-visible": { outline: `2px solid ${colours.copper}`, outlineOffset: "2px" },
        },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: { defaultProps: { disableElevation: true, size: "small" } },
      MuiPaper: {
        defaultProps: { elevation: 0 },
        styleOverrides: { root: { backgroundImage: "none" } },
      },
      MuiTextField: { defaultProps: { size: "small" } },
      MuiToggleButton: {
        styleOverrides: { root: { color: colours.ink, "&.Mui-selected": { color: colours.ink } } },
      },
      MuiMenu: { defaultProps: { transitionDuration: 0 } },
      MuiTooltip: { defaultProps: { enterDelay: 500 } },
    },
  });
}
