// Unit tests of what needs no browser; they lie with all others, in tests/web.
import { defineConfig } from "vitest/config";

export default defineConfig({
  root: "..",
  test: { globals: true, include: ["tests/web/**/*.test.ts"], environment: "node" },
});
