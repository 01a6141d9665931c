import { planOf } from "@/studies/compare/close-look/viewPicture";

const pane = (left: number, top: number, width = 400, height = 300) => ({
  left,
  top,
  width,
  height,
});

describe("a view as one picture", () => {
  it("has panes beside each other, at their own pixels", () =>
    expect(planOf([pane(0, 100), pane(420, 100)])).toEqual({
      width: 16 + 416 + 416,
      height: 16 + 40 + 30 + 300 + 16,
      places: [
        { x: 16, y: 86 },
        { x: 432, y: 86 },
      ],
    }));
  it("has rows below each other, in the screen's order whatever theirs", () => {
    const { places, height } = planOf([
      pane(0, 500, 400, 200),
      pane(420, 100),
      pane(0, 100),
    ]);
    expect(places).toEqual([
      { x: 16, y: 432 },
      { x: 432, y: 86 },
      { x: 16, y: 86 },
    ]);
    expect(height).toBe(432 + 200 + 16);
  });
});
