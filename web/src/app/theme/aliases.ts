// Controls of ours that are the platform's by another name and look.
import { VBtn } from "vuetify/components/VBtn";
import { VNumberInput } from "vuetify/components/VNumberInput";

export const aliases = {
  /** A word that acts. */
  TextAction: VBtn,
  /** A sign that acts; its name is in aria-label. */
  IconAction: VBtn,
  /** A number with its unit behind it as suffix. */
  NumberField: VNumberInput,
};

declare module "vue" {
  interface GlobalComponents {
    TextAction: typeof VBtn;
    IconAction: typeof VBtn;
    NumberField: typeof VNumberInput;
  }
}
