import { ref } from "vue";

import type { Frame } from "@/api/types";
import { useFrameFinder } from "@/material/frames/useFrameFinder";

const frame = (
  id: number,
  name: string,
  told: {
    scene?: string;
    kinds?: string[];
    camera?: string;
    iso?: number;
    truth?: boolean;
  },
): Frame =>
  ({
    id,
    name,
    file_name: `${name}.tif`,
    scene: told.scene ? { name: told.scene, kinds: told.kinds ?? [] } : null,
    truth: told.truth ? {} : null,
    picture: {
      facts: told.camera
        ? { camera: told.camera, lens: "50 mm", iso: told.iso }
        : null,
    },
  }) as unknown as Frame;

const FRAMES = [
  frame(1, "Loom", {
    scene: "Loom table",
    kinds: ["fine texture"],
    camera: "Corvane Quill 24",
    iso: 12800,
    truth: true,
  }),
  frame(2, "Loom at night", {
    scene: "Loom table",
    kinds: ["fine texture"],
    camera: "Corvane Quill 24",
    iso: 100,
  }),
  frame(3, "Yard", {
    scene: "Night yard",
    kinds: ["deep shadow", "lights at night"],
    camera: "Lull Two",
    iso: 3200,
  }),
  frame(4, "Scan", { truth: true }),
];

describe("finding frames", () => {
  const all = ref<Frame[] | undefined>(FRAMES);
  const names = (found: readonly Frame[]) => found.map((f) => f.id).join(" ");

  it.each<[string, string]>([
    ["", "1 2 3 4"],
    ["loom", "1 2"],
    ["LOOM iso 12800", "1"],
    ["night", "2 3"], // its name, or its scene's
    ["quill 24", "1 2"],
    ["  50   mm ", "1 2 3"],
    ["scan.tif", "4"],
    ["loom yard", ""],
  ])("by the words %j", (words, wanted) => {
    const finder = useFrameFinder(all);
    finder.words.value = words;
    expect(names(finder.found.value)).toBe(wanted);
  });

  it("by kind, camera and truth together", () => {
    const finder = useFrameFinder(all);
    expect(finder.cameras.value).toEqual(["Corvane Quill 24", "Lull Two"]);
    finder.kind.value = "fine texture";
    expect(names(finder.found.value)).toBe("1 2");
    finder.truth.value = "without";
    expect(names(finder.found.value)).toBe("2");
    finder.camera.value = "Lull Two";
    expect(names(finder.found.value)).toBe("");
    finder.kind.value = "";
    expect(names(finder.found.value)).toBe("3");
    finder.camera.value = "";
    finder.truth.value = "with";
    expect(names(finder.found.value)).toBe("1 4");
  });

  it("groups by scene, those without one last, a series from its clean end", () => {
    const finder = useFrameFinder(all);
    expect(finder.groups.value.map((g) => [g.key, names(g.frames)])).toEqual([
      ["Loom table", "2 1"],
      ["Night yard", "3"],
      ["", "4"],
    ]);
    finder.order.value = "newest";
    expect(finder.groups.value.map((g) => names(g.frames))).toEqual([
      "1 2 3 4",
    ]);
  });

  it("finds none before they have arrived", () => {
    const finder = useFrameFinder(ref(undefined));
    expect([
      finder.found.value,
      finder.cameras.value,
      finder.groups.value,
    ]).toEqual([[], [], []]);
  });
});
