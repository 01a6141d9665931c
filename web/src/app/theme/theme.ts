import { createVuetify } from "vuetify";
import { aliases as icons, mdi } from "vuetify/iconsets/mdi-svg";

import { aliases } from "./aliases";
import { dark, light } from "./colours";
import { defaults } from "./defaults";

export const vuetify = createVuetify({
  aliases,
  icons: { defaultSet: "mdi", aliases: icons, sets: { mdi } },
  theme: { defaultTheme: "system", themes: { light, dark } },
  defaults,
});
