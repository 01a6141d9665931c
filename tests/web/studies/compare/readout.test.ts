import {
  fixed,
  lighter,
  sampleOf,
  told,
} from "@/studies/compare/close-look/readout";

const grey = (...levels: number[]) => {
  const plane = levels.map((v) => v / 255);
  return sampleOf({ planes: [plane, plane, plane] });
};

describe("a read-out", () => {
  it("of one pixel is that pixel, without noise", () => {
    const sample = sampleOf({ planes: [[1], [0.5], [0]] });
    expect(told(sample, "8-bit levels")).toBe("255.0 127.5 0.0");
    expect(told(sample, "linear")).toBe("1.0000 0.2140 0.0000");
    expect(sample.sd).toBeUndefined();
  });
  it("averages light, not what stands for it", () => {
    // Half the light of white is level 187.5 (IEC 61966-2-1).
    expect(told(grey(0, 255), "8-bit levels")).toBe("187.5 187.5 187.5");
    expect(told(grey(0, 255), "linear")).toBe("0.5000 0.5000 0.5000");
  });
  it("tells noise as the standard deviation of what is seen", () =>
    expect(grey(118, 120, 119, 119).sd).toBeCloseTo(Math.sqrt(2 / 3), 9));
  it("tells CIELAB", () =>
    expect(told(grey(119), "CIELAB")).toBe("50.0 0.0 0.0"));
  it("tells by how much lighter one is than another", () => {
    expect(lighter(grey(119), grey(0))).toBe("+50.0");
    expect(lighter(grey(0), grey(119))).toBe("−50.0");
    expect(lighter(grey(80), grey(80))).toBe("+0.0");
  });
  it.each([
    [-0.04, 1, "0.0"],
    [-0.06, 1, "−0.1"],
    [1.25, 0, "1"],
  ])("writes %d with %i digits as %s", (v, digits, wanted) =>
    expect(fixed(v, digits)).toBe(wanted),
  );
});
