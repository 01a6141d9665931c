import { computed, ref } from "vue";

import type { Study } from "@/api/types";

const leaving = ref<string[]>([]);
vi.mock("@/shared/lib/useRemoval", () => ({
  isLeaving: (name: string) => leaving.value.includes(name),
}));
const { studyContext, withoutLeaving } =
  await import("@/studies/shared/useStudyContext");

const truth = { id: 50 };
const study = (): Study =>
  ({
    id: 3,
    role: "editor",
    frames: [
      { id: 1, truth },
      { id: 2, truth: null },
    ],
    contenders: [
      { id: 10, kind: "truth" },
      { id: 11, kind: "unprocessed" },
      { id: 12, kind: "treatment" },
      { id: 13, kind: "body" },
    ],
    outputs: [
      { id: 100, contender: 12, frame: 1 },
      { id: 101, contender: 13, frame: 1 },
    ],
    patches: [{ id: 20 }, { id: 21 }],
  }) as unknown as Study;

beforeEach(() => (leaving.value = []));

describe("a study without what is on its way out", () => {
  it("is whole where nothing is", () =>
    expect(withoutLeaving(study())).toEqual(study()));

  it("has neither a contender that leaves nor its outputs", () => {
    leaving.value = ["contender 12"];
    const left = withoutLeaving(study());
    expect(left.contenders.map((c) => c.id)).toEqual([10, 11, 13]);
    expect(left.outputs.map((o) => o.id)).toEqual([101]);
  });

  it("has no patch, frame or truth that leaves", () => {
    leaving.value = ["patch 21", "study 3 frame 2", "truth 1"];
    const left = withoutLeaving(study());
    expect(left.patches.map((p) => p.id)).toEqual([20]);
    expect(left.frames.map((f) => [f.id, f.truth])).toEqual([[1, null]]);
  });

  it("keeps a frame that leaves another study", () => {
    leaving.value = ["study 4 frame 2"];
    expect(withoutLeaving(study()).frames).toHaveLength(2);
  });
});

describe("what the stages of a study share", () => {
  const context = (of = study()) => studyContext(computed(() => of));

  it("has the truth's column only where a frame has one", () => {
    expect(context().columns.value.map((c) => c.id)).toEqual([10, 11, 12, 13]);
    leaving.value = ["truth 1"];
    expect(context().columns.value.map((c) => c.id)).toEqual([11, 12, 13]);
  });

  it("finds the output of a cell by frame or by its number", () => {
    const { outputOf, study: shown } = context();
    const [contender, frame] = [
      shown.value.contenders[2]!,
      shown.value.frames[0]!,
    ];
    expect(outputOf(contender, frame)?.id).toBe(100);
    expect(outputOf(contender, 1)?.id).toBe(100);
    expect(outputOf(contender, 2)).toBeUndefined();
  });

  it("counts as treatments only what has steps", () =>
    expect(context().treatments.value.map((c) => c.id)).toEqual([12]));

  it.each([
    ["viewer", false],
    ["editor", true],
    ["owner", true],
  ])("lets a %s edit: %s", (role, may) =>
    expect(context({ ...study(), role } as Study).canEdit.value).toBe(may),
  );
});
