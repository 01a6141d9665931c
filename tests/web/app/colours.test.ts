import { dark, light } from "@/app/theme/colours";

/** Relative luminance, and contrast, of WCAG 2.2. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5]
    .map((i) => parseInt(hex.slice(i, i + 2), 16) / 255)
    .map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)) as [
    number,
    number,
    number,
  ];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
function contrast(one: string, two: string): number {
  const [a, b] = [luminance(one), luminance(two)].sort((x, y) => y - x) as [
    number,
    number,
  ];
  return (a + 0.05) / (b + 0.05);
}

describe.each([
  ["light", light],
  ["dark", dark],
])("the %s theme", (_, theme) => {
  const colours = theme.colors as Record<string, string>;
  it.each([
    "primary",
    "error",
    "soft",
    "on-background",
    "on-surface",
    "success",
  ])("%s can be read on paper and on surfaces", (name) => {
    for (const ground of ["background", "surface"])
      expect(contrast(colours[name]!, colours[ground]!)).toBeGreaterThanOrEqual(
        4.5,
      );
  });
  it("has the same names as the other", () => {
    expect(Object.keys(light.colors!).sort()).toEqual(
      Object.keys(dark.colors!).sort(),
    );
  });
  it("tells what is not fair apart from what can be clicked", () => {
    expect(colours["error"]).not.toBe(colours["primary"]);
    expect(colours["warning"]).toBe(colours["error"]);
  });
});

it("black text on white is 21 to 1, by which the reckoning is checked", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
  // The standard's own example of a grey that just fails (WCAG 2.2, 1.4.3): 4.48 to 1.
  expect(contrast("#777777", "#ffffff")).toBeCloseTo(4.48, 2);
});
