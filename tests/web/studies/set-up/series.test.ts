import { isosTold, putFirst } from "@/studies/set-up/series";

describe("words for a series", () => {
  it.each([
    [[100, 200, 400, 800], "100 to 800, every stop"],
    [[100, 200, 400], "100, 200, 400"],
    [[100, 400, 1600, 6400], "100, 400, 1,600, 6,400"],
    [[800, 1600, 3200, 6400, 12800], "800 to 12,800, every stop"],
    [[], ""],
  ])("tells %j as %s", (isos, told) => {
    expect(isosTold(isos)).toBe(told);
  });
  it("puts the one first that others are held against, and keeps the others' order", () => {
    expect(putFirst(["A", "B", "C"], "C")).toEqual(["C", "A", "B"]);
    expect(putFirst(["A", "B"], "A")).toEqual(["A", "B"]);
  });
});
