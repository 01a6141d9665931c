import type { StepKind } from "@/api/types";
import { useSteps } from "@/shared/lib/useSteps";

const KINDS = [
  { id: "blur", parameters: [{ name: "radius", usual: 1.2 }] },
  {
    id: "jpeg",
    parameters: [
      { name: "quality", usual: 80 },
      { name: "sampling", usual: "4:2:0" },
    ],
  },
  { id: "flip", parameters: [] },
] as unknown as StepKind[];

function three() {
  const made = useSteps(() => KINDS);
  for (const id of ["blur", "jpeg", "flip"]) made.add(id);
  const order = () => made.steps.value.map((s) => s.kind).join(" ");
  return { ...made, order };
}

describe("an ordered list of steps", () => {
  it("begins each with its usual values and leaves out what nobody knows", () => {
    const { plain, add } = three();
    add("unknown");
    expect(plain()).toEqual([
      { kind: "blur", radius: 1.2 },
      { kind: "jpeg", quality: 80, sampling: "4:2:0" },
      { kind: "flip" },
    ]);
  });

  it("keeps values apart between steps of one kind", () => {
    const { steps, add } = three();
    add("blur");
    steps.value[0]!.values["radius"] = 9;
    expect(steps.value[3]!.values["radius"]).toBe(1.2);
  });

  it.each<[number, number, string]>([
    [0, 1, "jpeg blur flip"],
    [0, 2, "jpeg flip blur"],
    [2, -1, "blur flip jpeg"],
    [2, -2, "flip blur jpeg"],
    // At an end a step stays where it is, and none is lost.
    [0, -1, "blur jpeg flip"],
    [2, 1, "blur jpeg flip"],
    [7, 1, "blur jpeg flip"],
  ])("moves step %d by %d", (at, by, wanted) => {
    const { move, order } = three();
    move(at, by);
    expect(order()).toBe(wanted);
  });
});
