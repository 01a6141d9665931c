// How every control looks, told once. Labels stand above their field, always in the same place
// (base.css), so that a field reads the same empty and filled.
const field = {
  variant: "outlined",
  density: "compact",
  hideDetails: "auto",
  color: "primary",
  persistentPlaceholder: true,
} as const;

export const defaults = {
  global: { ripple: false, rounded: 0, elevation: 0 },
  VBtn: { variant: "outlined", color: "primary", density: "comfortable", class: "act" },
  TextAction: { variant: "plain", color: "primary", density: "compact", class: "text-action" },
  IconAction: { variant: "text", color: "soft", density: "compact", class: "icon-action" },
  VBtnToggle: { density: "compact", mandatory: true, divided: true, class: "choice-bar" },
  VTable: { density: "compact" },
  VDataTable: { density: "compact" },
  VTabs: { density: "compact", color: "primary" },
  VTab: { variant: "text", class: "stage-tab" },
  VAlert: { variant: "text", density: "compact" },
  VTextField: field,
  VTextarea: { ...field, autoGrow: true },
  VSelect: { ...field, menuProps: { rounded: 0 } },
  VAutocomplete: { ...field, menuProps: { rounded: 0 } },
  VCombobox: { ...field, menuProps: { rounded: 0 } },
  NumberField: { ...field, controlVariant: "hidden", precision: null },
  VFileInput: field,
  VCheckbox: { density: "compact", hideDetails: true, color: "primary" },
  VRadioGroup: { density: "compact", hideDetails: true, color: "primary" },
  VSlider: { color: "primary", density: "compact", hideDetails: true, thumbSize: 14 },
  VDialog: { maxWidth: 560 },
  VCard: { border: true, class: "sheet" },
  VList: { density: "compact" },
  VTooltip: { openDelay: 250, maxWidth: 420 },
  VProgressLinear: { color: "primary", height: 3 },
  VSkeletonLoader: { color: "transparent" },
  VEmptyState: { class: "empty" },
};
