// Every colour of the application, once for paper and once for the dark. Pictures stand on the
// surround.
import type { ThemeDefinition } from "vuetify";

const shared = { "border-opacity": 1, "high-emphasis-opacity": 1, "medium-emphasis-opacity": 1 };

export const light: ThemeDefinition = {
  dark: false,
  colors: {
    background: "#f5f5f4",
    surface: "#fbfbfa",
    primary: "#1d5a47",
    secondary: "#1a1c1c",
    error: "#b0392b",
    warning: "#b0392b",
    info: "#1a1c1c",
    success: "#1d5a47",
    soft: "#5c6161",
    rule: "#c8caca",
    hair: "#e0e1e0",
    "on-background": "#1a1c1c",
    "on-surface": "#1a1c1c",
  },
  variables: { ...shared, "border-color": "#c8caca" },
};

export const dark: ThemeDefinition = {
  dark: true,
  colors: {
    background: "#171818",
    surface: "#1e1f1f",
    primary: "#7fc4ab",
    secondary: "#ececea",
    error: "#ef8f80",
    warning: "#ef8f80",
    info: "#ececea",
    success: "#7fc4ab",
    soft: "#a5a9a8",
    rule: "#474a49",
    hair: "#303231",
    "on-background": "#ececea",
    "on-surface": "#ececea",
  },
  variables: { ...shared, "border-color": "#474a49" },
};
