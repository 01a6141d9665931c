import { computed, ref } from "vue";

import type { Study } from "@/api/types";

const audit = ref<{ open: number } | undefined>();
vi.mock("@/studies/shared/queries", () => ({
  useAudit: () => ({ data: audit }),
}));
const { useStages } = await import("@/studies/shared/useStages");

const GIVEN = [
  { id: 1, kind: "truth" },
  { id: 2, kind: "unprocessed" },
];
const A = { id: 3, kind: "treatment" };
const B = { id: 4, kind: "treatment" };
const frame = (state = "ready") => ({ picture: { state } });
const output = (contender: number, state = "lined up") => ({
  contender,
  state,
});

function stages(told: object, open = 0) {
  audit.value = { open };
  const study = {
    id: 5,
    frames: [],
    contenders: [],
    outputs: [],
    patches: [],
    readings_there: 0,
    readings_wanted: 0,
    verdicts: 0,
    editions: 0,
    ...told,
  } as unknown as Study;
  const made = useStages(
    () => 5,
    computed(() => study),
  ).value;
  return Object.fromEntries(made.map((s) => [s.key, s]));
}

describe("what each stage has and lacks", () => {
  it.each<[string, string, object, number, string, boolean]>([
    ["set-up", "nothing", {}, 0, "no frame yet", true],
    ["set-up", "a frame", { frames: [frame()] }, 0, "no contender yet", true],
    [
      "set-up",
      "a frame that was refused",
      { frames: [frame(), frame("refused")], contenders: [A] },
      0,
      "1 frame refused",
      true,
    ],
    [
      "set-up",
      "all",
      { frames: [frame(), frame()], contenders: [...GIVEN, A] },
      0,
      "2 frames, 1 contender",
      false,
    ],
    ["bring-in", "nothing", {}, 0, "nothing to bring in yet", false],
    [
      "bring-in",
      "one of four",
      {
        frames: [frame(), frame()],
        contenders: [...GIVEN, A, B],
        // Truth and unprocessed are given: they are not brought in.
        outputs: [output(1), output(2), output(3)],
      },
      0,
      "3 of 4 outputs missing",
      true,
    ],
    [
      "bring-in",
      "one that was refused",
      { frames: [frame()], contenders: [A], outputs: [output(3, "refused")] },
      0,
      "1 file refused",
      true,
    ],
    [
      "bring-in",
      "one being lined up",
      { frames: [frame()], contenders: [A], outputs: [output(3, "lining up")] },
      0,
      "lining up, 1 to go",
      false,
    ],
    [
      "bring-in",
      "findings",
      { frames: [frame()], contenders: [A], outputs: [output(3)] },
      2,
      "2 findings open",
      true,
    ],
    [
      "bring-in",
      "all alike",
      { frames: [frame()], contenders: [A], outputs: [output(3)] },
      0,
      "like for like",
      false,
    ],
    ["compare", "no frame", {}, 0, "no patch yet", false],
    ["compare", "no patch", { frames: [frame()] }, 0, "no patch yet", true],
    [
      "compare",
      "readings to come",
      { patches: [{}], readings_there: 3, readings_wanted: 9 },
      0,
      "3 of 9 readings",
      false,
    ],
    [
      "compare",
      "all readings",
      { patches: [{}, {}], readings_there: 9, readings_wanted: 9 },
      0,
      "2 patches measured",
      false,
    ],
    ["judge", "nothing", {}, 0, "no verdict yet", false],
    ["judge", "verdicts", { verdicts: 3 }, 0, "3 verdicts", false],
    ["publish", "nothing", {}, 0, "no edition yet", false],
    ["publish", "editions", { editions: 2 }, 0, "edition 2", false],
  ])("%s with %s", (key, _, told, open, state, lacks) => {
    const stage = stages(told, open)[key]!;
    expect([stage.state, stage.open]).toEqual([state, lacks]);
    expect(stage.to).toBe(`/studies/5/${key}`);
  });

  it("is called unfair for what is refused or found, not for what is only missing", () => {
    const some = {
      frames: [frame()],
      contenders: [A, B],
      outputs: [output(3)],
    };
    expect(stages(some)["bring-in"]!.unfair).toBe(false);
    const refused = { ...some, outputs: [output(3), output(4, "refused")] };
    expect(stages(refused)["bring-in"]!.unfair).toBe(true);
    const all = { ...some, outputs: [output(3), output(4)] };
    expect(stages(all, 1)["bring-in"]!.unfair).toBe(true);
    expect(stages(all, 1)["set-up"]!.unfair).toBe(false);
  });
});
