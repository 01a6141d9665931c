import {
  between,
  type Box,
  handleAt,
  HANDLES,
  LEAST,
  moved,
  resized,
  untaken,
} from "@/studies/compare/patches/patches";

const [WIDTH, HEIGHT] = [640, 427];
const inside = (b: Box) =>
  b.x >= 0 && b.y >= 0 && b.x + b.w <= WIDTH && b.y + b.h <= HEIGHT;

describe("drawing a patch", () => {
  it("goes from any corner to the opposite one, in whole pixels within the frame", () => {
    const corners: [number, number, number, number][] = [
      [10.4, 20.6, 110.4, 60.6],
      [110.4, 60.6, 10.4, 20.6],
      [10.4, 60.6, 110.4, 20.6],
    ];
    for (const [ax, ay, bx, by] of corners)
      expect(between(ax, ay, bx, by, WIDTH, HEIGHT)).toEqual({
        x: 10,
        y: 21,
        w: 100,
        h: 40,
      });
    expect(between(-50, -9, 9000, 9000, WIDTH, HEIGHT)).toEqual({
      x: 0,
      y: 0,
      w: WIDTH,
      h: HEIGHT,
    });
  });
});

describe("moving", () => {
  const box = { x: 100, y: 100, w: 90, h: 60, name: "Sky" };
  it("keeps the size and all else that a patch has", () => {
    expect(moved(box, 3.4, -7.6, WIDTH, HEIGHT)).toEqual({
      ...box,
      x: 103,
      y: 92,
    });
  });
  it.each([
    [-999, -999, 0, 0],
    [999, 999, WIDTH - 90, HEIGHT - 60],
  ])("stops at the frame's edge (%d, %d)", (dx, dy, x, y) => {
    expect(moved(box, dx, dy, WIDTH, HEIGHT)).toMatchObject({
      x,
      y,
      w: 90,
      h: 60,
    });
  });
});

describe("resizing", () => {
  const box = { x: 100, y: 100, w: 90, h: 60 };
  it.each(HANDLES)(
    "by %s leaves the opposite side where it is, whatever is dragged",
    (handle) => {
      for (const [dx, dy] of [
        [7, 5],
        [-7, -5],
        [999, 999],
        [-999, -999],
        [0.4, 0.6],
      ] as const) {
        const made = resized(box, handle, dx, dy, WIDTH, HEIGHT);
        expect(inside(made)).toBe(true);
        expect(made.w).toBeGreaterThanOrEqual(LEAST);
        expect(made.h).toBeGreaterThanOrEqual(LEAST);
        if (!handle.includes("w")) expect(made.x).toBe(100);
        if (!handle.includes("e")) expect(made.x + made.w).toBe(190);
        if (!handle.includes("n")) expect(made.y).toBe(100);
        if (!handle.includes("s")) expect(made.y + made.h).toBe(160);
      }
    },
  );
  it.each(HANDLES)("is begun where %s sits", (handle) => {
    const at = handleAt(box, handle);
    const grown = resized(
      box,
      handle,
      at.x === 100 ? -10 : 10,
      at.y === 100 ? -10 : 10,
      WIDTH,
      HEIGHT,
    );
    expect(grown.w * grown.h).toBeGreaterThan(box.w * box.h);
  });
});

describe("what is suggested", () => {
  const patch = { x: 10, y: 10, w: 50, h: 50, role: "flat" };
  it.each([
    [{ x: 59, y: 59, w: 9, h: 9, role: "flat" }, 0],
    [{ x: 60, y: 10, w: 9, h: 9, role: "flat" }, 1],
    [{ x: 20, y: 20, w: 9, h: 9, role: "edge" }, 1],
    [{ x: 0, y: 0, w: 200, h: 200, role: "flat" }, 0],
  ])("is left out where a patch of its role lies over it: %o", (box, left) => {
    expect(untaken([box], [patch])).toHaveLength(left);
  });
});
