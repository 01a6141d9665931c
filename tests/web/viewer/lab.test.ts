import { labOf } from "@/viewer/lab";

// CIE 15:2018 on sRGB (IEC 61966-2-1); the values were worked out with colour-science 0.4.
describe("CIELAB of a colour", () => {
  it.each<
    [readonly [number, number, number], readonly [number, number, number]]
  >([
    [
      [0, 0, 0],
      [0, 0, 0],
    ],
    [
      [255, 255, 255],
      [100, 0, 0],
    ],
    [
      [119, 119, 119],
      [50.03, 0, 0],
    ],
    [
      [1, 1, 1],
      [0.27, 0, 0],
    ],
    [
      [255, 0, 0],
      [53.24, 80.09, 67.2],
    ],
    [
      [0, 255, 0],
      [87.74, -86.18, 83.18],
    ],
    [
      [0, 0, 255],
      [32.3, 79.19, -107.86],
    ],
  ])("%j is %j", (codes, wanted) => {
    const found = labOf(
      codes.map((c) => c / 255) as unknown as [number, number, number],
    );
    found.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 1));
  });

  it("grows in lightness with every level, through the straight part near black too", () => {
    const grey = Array.from(
      { length: 256 },
      (_, v) => labOf([v / 255, v / 255, v / 255])[0],
    );
    for (let v = 1; v < 256; v++)
      expect(grey[v]!).toBeGreaterThan(grey[v - 1]!);
  });
});
