import {
  BLACK,
  decode,
  deepAddress,
  encode,
  encodedOf,
  sizeAt,
  SPAN,
  squareAt,
  tileSize,
} from "@/viewer/depth";

describe("the sRGB curve (IEC 61966-2-1)", () => {
  it("is undone by its inverse at every level, and meets at its knee", () => {
    for (let level = -60; level < 320; level++)
      expect(255 * encode(decode(level / 255))).toBeCloseTo(level, 9);
    expect(decode(0.04045)).toBeCloseTo(0.0031308, 6);
    expect(encode(1)).toBeCloseTo(1, 12);
    expect(decode(0.5)).toBeCloseTo(0.21404, 5);
  });
});

describe("the full-depth copy", () => {
  it("has black and white where the format puts them", () =>
    expect([BLACK, BLACK + SPAN, 0].map(encodedOf)).toEqual([0, 1, -0.5]));
  it.each([
    [0, { width: 1100, height: 700 }, { width: 76, height: 188 }],
    [1, { width: 550, height: 350 }, { width: 38, height: -162 }],
  ])("has sizes at level %i", (level, whole, last) => {
    const picture = { width: 1100, height: 700 };
    expect(sizeAt(picture, level)).toEqual(whole);
    expect(tileSize(picture, level, level ? 1 : 2, 1)).toEqual(last);
  });
  it("rounds odd sizes up, level by level", () =>
    expect(sizeAt({ width: 5, height: 3 }, 2)).toEqual({
      width: 2,
      height: 1,
    }));
  it("is asked for by level, place and plane", () => {
    expect(deepAddress(7, 1, 2, 3)).toBe("/api/pictures/7/full-depth/1/2_3");
    expect(deepAddress(7, 0, 0, 0, "octave")).toBe(
      "/api/pictures/7/full-depth/0/0_0?plane=octave",
    );
  });
});

describe("a square of pixels", () => {
  const picture = { width: 600, height: 20 };
  /** Each pixel says its x in red, its y in green. */
  const read = (column: number, row: number) => {
    const { width, height } = tileSize(picture, 0, column, row);
    const steps = new Uint16Array(3 * width * height).fill(BLACK);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        steps[y * width + x] = BLACK + column * 512 + x;
        steps[width * height + y * width + x] = BLACK + row * 512 + y;
      }
    return steps;
  };
  const places = (x: number, y: number, side: number) =>
    squareAt(picture, x, y, side, read)?.planes.map((p) =>
      p.map((v) => Math.round(v * SPAN)),
    );
  it("is read across tiles", () =>
    expect(places(512.2, 3.9, 3)?.slice(0, 2)).toEqual([
      [511, 512, 513, 511, 512, 513, 511, 512, 513],
      [2, 2, 2, 3, 3, 3, 4, 4, 4],
    ]));
  it("ends at the picture's edge", () =>
    expect(places(0.5, 19.5, 3)?.slice(0, 2)).toEqual([
      [0, 1, 0, 1],
      [18, 18, 19, 19],
    ]));
  it.each([
    [-0.1, 3],
    [600, 3],
    [3, 20],
  ])("is nothing outside, at %d, %d", (x, y) =>
    expect(places(x, y, 1)).toBeUndefined(),
  );
  it("waits for its tiles", () =>
    expect(
      squareAt(picture, 511, 3, 5, (c) => (c ? undefined : read(0, 0))),
    ).toBeUndefined());
});
