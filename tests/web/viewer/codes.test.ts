import { lightness } from "@/viewer/codes";

// CIE 15:2018 on sRGB (IEC 61966-2-1); the values were worked out with colour-science 0.4.
describe("lightness under the pointer", () => {
  it.each<[readonly [number, number, number], number]>([
    [[0, 0, 0], 0],
    [[255, 255, 255], 100],
    [[119, 119, 119], 50.03],
    [[1, 1, 1], 0.27],
    [[255, 0, 0], 53.24],
    [[0, 255, 0], 87.73],
    [[0, 0, 255], 32.3],
  ])("%j has L* %d", (codes, wanted) =>
    expect(lightness(codes)).toBeCloseTo(wanted, 1),
  );

  it("grows with every code, through the straight part near black too", () => {
    const grey = Array.from({ length: 256 }, (_, v) => lightness([v, v, v]));
    for (let v = 1; v < 256; v++)
      expect(grey[v]!).toBeGreaterThan(grey[v - 1]!);
  });
});
