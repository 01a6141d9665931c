import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/spline-sans-mono";
import "vuetify/styles";
import "@/app/theme/base.css";

import { QueryClient, VueQueryPlugin } from "@tanstack/vue-query";
import { createApp } from "vue";

import { askFirst } from "./ahead";
import App from "./App.vue";
import { patience } from "./useAway";
import { askAgainForPictures } from "./pictures";
import { router } from "./router";
import { vuetify } from "@/app/theme/theme";
import { finishRemovals } from "@/shared/lib/useRemoval";

askAgainForPictures();
const queryClient = new QueryClient({
  defaultOptions: { queries: { staleTime: 2000, ...patience } },
});
askFirst(queryClient, location.pathname);
const app = createApp(App).use(vuetify).use(router).use(VueQueryPlugin, { queryClient });
// What the last page was to remove is not shown again.
void finishRemovals().finally(() => app.mount("#app"));
