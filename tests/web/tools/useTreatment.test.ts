import { nextTick, ref } from "vue";

import type { Method, Step, Tool, Treatment } from "@/api/types";

const tools = ref<Tool[] | undefined>();
const methods = ref<Method[] | undefined>();
vi.mock("@/tools/queries", () => ({
  useTools: () => ({ data: tools }),
  useMethods: () => ({ data: methods }),
}));
const { copyOf, freshStep, useTreatment } =
  await import("@/tools/treatment/useTreatment");

const setting = (name: string, usual: number, unit = "px") => ({
  name,
  usual,
  unit,
});
const TOOLS = [
  {
    name: "Sedgewash",
    releases: [
      { name: "2.4", strength: true, settings: [setting("radius", 1)] },
      {
        name: "3.0",
        strength: false,
        settings: [setting("radius", 2), setting("grain", 5, "%")],
      },
    ],
  },
  { name: "Keenfold", releases: [] },
  { name: "Gaussian", releases: [{ name: "", method: "gaussian" }] },
] as unknown as Tool[];
const METHODS = [
  {
    id: "gaussian",
    title: "Gaussian",
    resizes: false,
    settings: [setting("luma", 0.8)],
  },
  { id: "bicubic", title: "Bicubic", resizes: true, settings: [] },
] as unknown as Method[];

const valuesOf = (step: Step) =>
  Object.fromEntries(step.settings.map((s) => [s.name, s.value]));

describe("a treatment in the making", () => {
  beforeEach(() => {
    tools.value = TOOLS;
    methods.value = METHODS;
  });

  it("begins with one empty step and is ready once each names its tool", () => {
    const { steps, ready, treatment, programs } = useTreatment();
    expect(ready.value).toBe(false);
    steps.value[0]!.tool = "  ";
    expect(ready.value).toBe(false);
    steps.value[0]!.tool = "My own";
    expect(ready.value).toBe(true);
    expect(treatment.value.feed).toBe("16-bit TIFF");
    expect(programs.value).toEqual(["Sedgewash", "Keenfold"]);
  });

  it("takes a tool with its newest release and its usual settings", () => {
    const { steps, choose, hasStrength } = useTreatment();
    const step = steps.value[0]!;
    step.strength = 60;
    choose(step, "Sedgewash");
    expect([step.release, valuesOf(step)]).toEqual([
      "3.0",
      { radius: 2, grain: 5 },
    ]);
    // That release has no strength.
    expect([hasStrength(step), step.strength]).toEqual([false, null]);
  });

  it("keeps values of the same name when another release is taken", () => {
    const { steps, choose, follow } = useTreatment();
    const step = steps.value[0]!;
    choose(step, "Sedgewash");
    step.settings[0]!.value = 7;
    step.release = "2.4";
    follow(step);
    expect(valuesOf(step)).toEqual({ radius: 7 });
  });

  it("takes a method by its title; one that resizes has no strength", () => {
    const { steps, choose, hasStrength, kindsOf } = useTreatment();
    const step = steps.value[0]!;
    choose(step, "Gaussian");
    expect([step.method, step.release, valuesOf(step)]).toEqual([
      "gaussian",
      "",
      { luma: 0.8 },
    ]);
    expect(hasStrength(step)).toBe(true);
    choose(step, "Bicubic");
    expect([step.method, step.settings, hasStrength(step)]).toEqual([
      "bicubic",
      [],
      false,
    ]);
    expect(kindsOf(step)).toEqual([]);
  });

  it("of a tool that nobody has described keeps what was typed", () => {
    const { steps, choose, hasStrength } = useTreatment();
    const step = steps.value[0]!;
    step.settings = [{ name: "look", value: 3, unit: "", automatic: false }];
    choose(step, "Keenfold");
    expect([step.release, valuesOf(step), hasStrength(step)]).toEqual([
      "",
      { look: 3 },
      true,
    ]);
  });

  it("looks a tool up that was named before the tools had arrived", async () => {
    tools.value = methods.value = undefined;
    const { steps, choose } = useTreatment();
    choose(steps.value[0]!, "Gaussian");
    expect(steps.value[0]!.method).toBe("");
    tools.value = TOOLS;
    methods.value = METHODS;
    await nextTick();
    expect(steps.value[0]!.method).toBe("gaussian");
  });

  it("moves steps and hands out copies of its own", () => {
    const start = {
      steps: [{ tool: "One" }, { tool: "Two" }],
      feed: "original file",
    };
    const { steps, move, treatment, take } = useTreatment(
      start as unknown as Treatment,
    );
    move(0, 1);
    expect(treatment.value.steps.map((s) => s.tool)).toEqual(["Two", "One"]);
    expect(treatment.value.feed).toBe("original file");
    const given = treatment.value;
    steps.value[0]!.tool = "Changed";
    expect(given.steps[0]!.tool).toBe("Two");
    take(given);
    expect(steps.value[0]!.tool).toBe("Two");
    expect(copyOf({ tool: "One" } as Step)).toEqual({
      ...freshStep(),
      tool: "One",
    });
  });
});
