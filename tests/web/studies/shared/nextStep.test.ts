import type { Audit, Study } from "@/api/types";
import { nextStep } from "@/studies/shared/nextStep";

const contender = (id: number, kind = "treatment") => ({ id, kind }) as never;
const output = (of: number, frame: number) =>
  ({ contender: of, frame }) as never;
const study = (more: Partial<Study> = {}): Study =>
  ({
    factor: "tool",
    frames: [{ id: 1 }, { id: 2 }],
    contenders: [
      contender(8, "truth"),
      contender(9, "unprocessed"),
      contender(1),
    ],
    outputs: [output(9, 1), output(9, 2), output(1, 1), output(1, 2)],
    patches: [{}],
    verdicts: 1,
    editions: 1,
    ...more,
  }) as unknown as Study;
const audit = (open: number) => ({ open }) as Audit;

describe("the next step of a study", () => {
  it.each<[string, Partial<Study>, number, string, RegExp]>([
    ["frames", { frames: [] }, 0, "set-up", /no frame/],
    [
      "contenders",
      { contenders: [contender(8, "truth"), contender(9, "unprocessed")] },
      0,
      "set-up",
      /no contender/,
    ],
    [
      "outputs",
      { outputs: [output(1, 1)] },
      0,
      "bring-in",
      /^1 output missing/,
    ],
    ["several", { outputs: [] }, 0, "bring-in", /^2 outputs missing/],
    ["findings", {}, 3, "audit", /^3 findings open.*the tool/],
    ["patches", { patches: [] }, 0, "patches", /Nothing is compared/],
    ["verdicts", { verdicts: 0 }, 0, "judge", /on the wall/],
    ["an edition", { editions: 0 }, 0, "publish", /ready to be read/],
    ["nothing", {}, 0, "compare", /published/],
  ])("is for %s", (_, more, open, path, words) => {
    const step = nextStep(study(more), audit(open));
    expect(step.path).toBe(path);
    expect(step.words).toMatch(words);
    expect(step.action).not.toBe("");
  });

  it("does not take the frame's own columns for outputs that are there", () => {
    const own = study({ outputs: [output(8, 1), output(9, 1), output(9, 2)] });
    expect(nextStep(own, audit(0)).words).toMatch(/^2 outputs missing/);
  });

  it("goes on without an audit that is not there yet", () =>
    expect(nextStep(study({ patches: [] }), undefined).path).toBe("patches"));

  it("names frames before everything else that is missing", () => {
    const empty = study({
      frames: [],
      contenders: [],
      patches: [],
      outputs: [],
    });
    expect(nextStep(empty, undefined).action).toBe("Add frames");
  });
});
