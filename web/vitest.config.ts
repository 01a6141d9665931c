// Unit tests of what needs no browser; they lie with all others, in tests/web.
import { defineConfig } from "vitest/config";

export default defineConfig({
  root: "..",
  cacheDir: "web/node_modules/.vite",
  // Tests lie outside of this folder, and use the libraries that the sources use.
  resolve: {
    alias: {
      "@": new URL("./src", import.meta.url).pathname,
      vue: new URL("./node_modules/vue", import.meta.url).pathname,
      "vue-router": new URL("./node_modules/vue-router", import.meta.url).pathname,
      "tus-js-client": new URL("./node_modules/tus-js-client", import.meta.url).pathname,
      "@tanstack/vue-query": new URL("./node_modules/@tanstack/vue-query", import.meta.url)
        .pathname,
    },
  },
  test: { globals: true, include: ["tests/web/**/*.test.ts"], environment: "node" },
});
