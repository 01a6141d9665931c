import vue from "@vitejs/plugin-vue";
import vuetify from "vite-plugin-vuetify";
import { defineConfig } from "vite";

export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  plugins: [vue(), vuetify({ autoImport: true })],
  server: { proxy: { "/api": "http://127.0.0.1:8400", "/reports": "http://127.0.0.1:8400" } },
  build: {
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // Many small files cost a page more than the few bytes that it does not need.
        codeSplitting: {
          groups: [
            { name: "platform", test: /node_modules\/(vue|@vue|vue-router|vuetify|@tanstack)\// },
            { name: "shared", test: /src\/(shared|api|app|help)\//, minShareCount: 3 },
            { name: "studies", test: /src\/(studies|viewer|material)\//, minShareCount: 3 },
          ],
        },
      },
    },
  },
}));
