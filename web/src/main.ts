import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/spline-sans-mono";
import "vuetify/styles";
import "./styles.css";

import { VueQueryPlugin } from "@tanstack/vue-query";
import { createApp } from "vue";

import App from "./App.vue";
import { patience } from "./composables/useAway";
import { router } from "./router";
import { vuetify } from "./theme";

createApp(App)
  .use(vuetify)
  .use(router)
  .use(VueQueryPlugin, {
    queryClientConfig: { defaultOptions: { queries: { staleTime: 2000, ...patience } } },
  })
  .mount("#app");
