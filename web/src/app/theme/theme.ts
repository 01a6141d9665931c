import { createVuetify, type ThemeDefinition } from "vuetify";
import { aliases, mdi } from "vuetify/iconsets/mdi-svg";

const shared = { "border-opacity": 1, "high-emphasis-opacity": 1, "medium-emphasis-opacity": 1 };

const light: ThemeDefinition = {
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
    "on-background": "#1a1c1c",
    "on-surface": "#1a1c1c",
  },
  variables: { ...shared, "border-color": "#c8caca" },
};

const dark: ThemeDefinition = {
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
    "on-background": "#ececea",
    "on-surface": "#ececea",
  },
  variables: { ...shared, "border-color": "#474a49" },
};

// Labels stand above their field, always in the same place (styles.css), so that a field reads the same empty and filled.
const field = {
  variant: "outlined",
  density: "compact",
  hideDetails: "auto",
  color: "primary",
  persistentPlaceholder: true,
} as const;

export const vuetify = createVuetify({
  icons: { defaultSet: "mdi", aliases, sets: { mdi } },
  theme: { defaultTheme: "system", themes: { light, dark } },
  defaults: {
    global: { ripple: false, rounded: 0, elevation: 0 },
    VBtn: { variant: "outlined", color: "primary", density: "comfortable", class: "act" },
    VTable: { density: "compact" },
    VTabs: { density: "compact", color: "primary" },
    VTab: { variant: "text", class: "stage-tab" },
    VAlert: { variant: "text", density: "compact" },
    VTextField: field,
    VTextarea: field,
    VSelect: { ...field, menuProps: { rounded: 0 } },
    VCombobox: field,
    VCheckbox: { density: "compact", hideDetails: true, color: "primary" },
    VDialog: { maxWidth: 560 },
    VCard: { border: true, class: "sheet" },
    VTooltip: { openDelay: 250 },
    VProgressLinear: { color: "primary", height: 3 },
  },
});
