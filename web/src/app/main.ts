import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/spline-sans-mono";
import "vuetify/styles";
import "@/app/theme/base.css";

import { VueQueryPlugin } from "@tanstack/vue-query";
import { createApp } from "vue";

import App from "./App.vue";
import { patience } from "./useAway";
import { router } from "./router";
import { vuetify } from "@/app/theme/theme";

createApp(App)
  .use(vuetify)
  .use(router)
  .use(VueQueryPlugin, {
    queryClientConfig: { defaultOptions: { queries: { staleTime: 2000, ...patience } } },
  })
  .mount("#app");
