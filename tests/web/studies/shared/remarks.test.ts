import type { Remark } from "@/api/types";
import {
  apart,
  byPatch,
  concerns,
  lettersOf,
  patchAt,
  saidBy,
} from "@/studies/shared/remarks/remarks";

const remark = (of: Partial<Remark>): Remark => ({
  id: 1,
  number: 1,
  frame: 1,
  x: 5,
  y: 5,
  kind: "halo",
  text: "",
  of_all: false,
  contenders: [],
  author: "",
  created: "",
  ...of,
});
const patch = (id: number, x: number, w: number, frame = 1) => ({
  id,
  frame,
  x,
  y: 0,
  w,
  h: 10,
});

describe("a remark", () => {
  it.each<[Partial<Remark>, string]>([
    [{ kind: "halo" }, "halo"],
    [{ kind: "halo", text: "on the rim" }, "halo: on the rim"],
    [{ kind: "own words", text: "odd" }, "odd"],
  ])("%j says %s", (of, words) => expect(saidBy(remark(of))).toBe(words));
  it("holds for those it names, in the columns' order, or for all", () => {
    const columns = [
      { id: 3, letter: "U" },
      { id: 1, letter: "A" },
      { id: 2, letter: "B" },
    ];
    const two = remark({ contenders: [2, 3] });
    expect(lettersOf(two, columns)).toEqual(["U", "B"]);
    expect([1, 2, 3].map((id) => concerns(two, id))).toEqual([
      false,
      true,
      true,
    ]);
    expect(concerns(remark({ of_all: true }), 1)).toBe(true);
    expect(concerns(remark({}), 1)).toBe(false);
  });
});

describe("remarks by patch", () => {
  const patches = [patch(1, 0, 50), patch(2, 4, 4), patch(3, 0, 50, 2)];
  it("stand with the smallest patch that they lie on, edges included", () => {
    expect(patchAt(patches, remark({ x: 5 }))?.id).toBe(2);
    expect(patchAt(patches, remark({ x: 8, y: 10 }))?.id).toBe(2);
    expect(patchAt(patches, remark({ x: 9 }))?.id).toBe(1);
    expect(patchAt(patches, remark({ frame: 2 }))?.id).toBe(3);
    expect(patchAt(patches, remark({ x: 51 }))).toBeUndefined();
  });
  it("come in the patches' order, then those on none", () => {
    const all = [
      remark({ id: 1, x: 90 }),
      remark({ id: 2, frame: 2 }),
      remark({ id: 3, x: 30 }),
      remark({ id: 4, x: 31 }),
    ];
    expect(
      byPatch(all, patches).map((g) => [
        g.patch?.id,
        g.remarks.map((r) => r.id),
      ]),
    ).toEqual([
      [1, [3, 4]],
      [3, [2]],
      [undefined, [1]],
    ]);
  });
});

describe("numbers in a margin", () => {
  it.each([
    [[], []],
    [
      [10, 60],
      [10, 60],
    ],
    [
      [10, 12, 13],
      [10, 34, 58],
    ],
    [
      [50, 10, 12],
      [58, 10, 34],
    ],
  ])("at %j stand at %j", (places, wanted) =>
    expect(apart(places, 24)).toEqual(wanted),
  );
});
