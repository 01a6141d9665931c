import { computed, ref } from "vue";

import type { Study } from "@/api/types";

const coverage = ref<object | undefined>();
vi.mock("@/studies/bring-in/queries", () => ({
  useCoverage: () => ({ data: coverage }),
}));
const run = vi.fn();
vi.mock("@/studies/bring-in/mutations", () => ({
  useRunChanges: () => ({ run }),
}));
const { useRuns } = await import("@/studies/bring-in/useRuns");

const cell = (contender: number, frame: number, state: string, told = {}) => ({
  contender,
  frame,
  state,
  by_hand: false,
  out_of_date: false,
  ...told,
});

describe("what is made and what is not", () => {
  const runs = () => useRuns(computed(() => ({ id: 4 }) as Study));

  it("is none before it has arrived", () => {
    coverage.value = undefined;
    const { toMake, count, covered } = runs();
    expect([toMake.value, count("made"), covered(1, 1)]).toEqual([
      0,
      0,
      undefined,
    ]);
  });

  it("finds a cell by its contender and frame, the other way round is another", () => {
    coverage.value = {
      cells: [cell(1, 2, "made"), cell(2, 1, "failed")],
      counts: { made: 1 },
    };
    const { covered, count } = runs();
    expect([covered(1, 2)?.state, covered(2, 1)?.state]).toEqual([
      "made",
      "failed",
    ]);
    expect([count("made"), count("waiting")]).toEqual([1, 0]);
  });

  it.each<[string, object, number]>([
    ["missing", cell(1, 1, "missing"), 1],
    ["made with other settings", cell(1, 1, "made", { out_of_date: true }), 1],
    ["made", cell(1, 1, "made"), 0],
    ["under way", cell(1, 1, "running"), 0],
    ["failed: that is tried again by itself", cell(1, 1, "failed"), 0],
    ["impossible", cell(1, 1, "impossible"), 0],
    // A tool without a command line makes nothing here.
    ["missing, and made by hand", cell(1, 1, "missing", { by_hand: true }), 0],
  ])("asks for what is to be made: %s", (_, only, wanted) => {
    coverage.value = { cells: [only], counts: {} };
    expect(runs().toMake.value).toBe(wanted);
  });

  it("hands on the ways to change it", () => {
    expect(runs().run).toBe(run);
  });
});
