import { lightness } from "@/viewer/codes";
import { decode, encode, tableFor } from "@/viewer/matching";

describe("the sRGB curve (IEC 61966-2-1)", () => {
  it("is undone by its inverse at every code, and meets at its knee", () => {
    for (let code = 0; code < 256; code++)
      expect(255 * encode(decode(code / 255))).toBeCloseTo(code, 9);
    expect(decode(0.04045)).toBeCloseTo(0.0031308, 6);
    expect(encode(1)).toBeCloseTo(1, 12);
    expect(decode(0.5)).toBeCloseTo(0.21404, 5);
  });
});

describe("lightness (CIE 15)", () => {
  it.each([
    [[0, 0, 0], 0],
    [[255, 255, 255], 100],
    [[119, 119, 119], 50.03],
    [[255, 0, 0], 53.23],
    [[0, 255, 0], 87.74],
    [[0, 0, 255], 32.3],
    [[5, 5, 5], 1.37],
  ] as const)("of %o is %d", (codes, wanted) => {
    expect(lightness(codes as [number, number, number])).toBeCloseTo(wanted, 1);
  });
});

describe("brightness taken off", () => {
  const tone = { stops: 1, frame: [0, 0.5, 1], output: [0, 0.25, 1] };
  it("is nothing where nothing is asked for or known", () => {
    expect(tableFor("none", tone)).toBeNull();
    expect(tableFor("exposure", null)).toBeNull();
    expect(tableFor("exposure", { ...tone, stops: null })).toBeNull();
    expect(
      tableFor("exposure and tone", {
        ...tone,
        stops: null,
        frame: [],
        output: [],
      }),
    ).toBeNull();
  });
  it("halves light for an output a stop brighter", () => {
    const table = tableFor("exposure", tone);
    for (const code of [20, 128, 255])
      expect(table?.[code]).toBe(
        Math.round(255 * encode(decode(code / 255) / 2)),
      );
  });
  it("brings a tone curve back to the frame's, ends included, and never turns it round", () => {
    const table = tableFor("exposure and tone", tone);
    expect([table?.[0], table?.[64], table?.[255]]).toEqual([0, 128, 255]);
    for (let code = 1; code < 256; code++)
      expect(table?.[code]).toBeGreaterThanOrEqual(table?.[code - 1] ?? 0);
  });
  it("keeps the distance beyond the ends of a curve", () => {
    const table = tableFor("exposure and tone", {
      stops: 0,
      frame: [0.3, 0.6],
      output: [0.2, 0.5],
    });
    expect(Math.abs((table?.[0] ?? 0) - 255 * 0.1)).toBeLessThan(1);
    expect(Math.abs((table?.[204] ?? 0) - 255 * 0.9)).toBeLessThan(1);
    expect(table?.[255]).toBe(255);
  });
});
