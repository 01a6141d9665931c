import { BLACK, SPAN } from "@/viewer/depth";
import { IDENTITY } from "@/viewer/geometry";
import { markedInView, shareWords } from "@/viewer/marks";

const picture = { id: 1, width: 10, height: 10, levels: 1 };
/** Grey, with a column at the top, one at the bottom and one beyond. */
const tile = new Uint16Array(300).map((_, i) => {
  const x = i % 10;
  if (x === 0) return BLACK + SPAN;
  if (x === 1) return BLACK;
  if (x === 2 && i < 100) return BLACK + Math.round(1.2 * SPAN);
  return BLACK + SPAN / 2;
});
const drawing = (x: number, zoom = 1, mapping = IDENTITY) => ({
  picture,
  mapping,
  view: { x, y: 5, zoom },
  layer: null,
});

describe("what is marked in view", () => {
  it("is counted in shares of the pixels there", () => {
    const whole = markedInView(
      drawing(5),
      { width: 10, height: 10 },
      0,
      () => tile,
    );
    expect(whole).toEqual({ top: 0.2, bottom: 0.1, beyond: 0.1 });
  });
  it("is only what is in view, wherever an output lies", () => {
    const canvas = { width: 8, height: 40 };
    expect(markedInView(drawing(2, 4), canvas, 0, () => tile)).toEqual({
      top: 0.5,
      bottom: 0.5,
      beyond: 0.5,
    });
    const shifted = { sx: 1, sy: 1, dx: 4, dy: 0 };
    expect(markedInView(drawing(2, 4, shifted), canvas, 0, () => tile)).toEqual(
      { top: 0, bottom: 0, beyond: 0 },
    );
  });
  it("is not told before all of it is there, nor outside of a picture", () => {
    const canvas = { width: 10, height: 10 };
    expect(
      markedInView(drawing(5), canvas, 0, () => undefined),
    ).toBeUndefined();
    expect(markedInView(drawing(99), canvas, 0, () => tile)).toBeUndefined();
  });
  it.each([
    [0, "none"],
    [0.00002, "< 0.01 %"],
    [0.0123, "1.2 %"],
    [1, "100 %"],
  ])("%d is told as %s", (share, words) =>
    expect(shareWords(share)).toBe(words),
  );
});
