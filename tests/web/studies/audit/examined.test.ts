import type { Examination } from "@/api/types";
import {
  addedBy,
  columnsOf,
  pictureValues,
  toneValues,
} from "@/studies/audit/output/examined";

const value = (name: string, v: number, low = v, high = v) => ({
  name,
  value: v,
  low,
  high,
});
const found = {
  values: [
    value("saturation", 1.1234, 1.1, 1.13),
    value("exposure", -0.25, -0.251, -0.249),
    value("smeared", 0.8),
    value("what nobody knows", 3),
  ],
  curves: [{ name: "tone", columns: { x: [0, 1], y: [0, 0.9] } }],
} as unknown as Examination;

describe("what examining an output found", () => {
  it("is told in the order of the page, each in its own part, with the wider half", () => {
    expect(toneValues(found)).toEqual([
      { name: "Exposure", text: "−0.250 EV", half: "±0.001" },
      { name: "Chroma", text: "1.123 times", half: "±0.023" },
    ]);
  });
  it("has no half where a number is exact", () => {
    expect(pictureValues(found)).toEqual([
      { name: "Faint fine texture kept", text: "0.80 times", half: "" },
    ]);
  });
  it("finds a curve by its name, or none", () => {
    expect(columnsOf(found, "tone")).toEqual({ x: [0, 1], y: [0, 0.9] });
    expect(columnsOf(found, "hue")).toBeNull();
  });
});

describe("a change of exposure alone", () => {
  it("adds nothing at none, and twice the light at one stop", () => {
    expect(addedBy(0, [0, 0.5, 1]).every((v) => Math.abs(v) < 1e-9)).toBe(true);
    // sRGB: code 188 is twice the light of code 137 (0.5029 against 0.2502, by hand).
    expect(addedBy(1, [137 / 255])[0]).toBeCloseTo(188 - 137, 0);
    expect(addedBy(-1, [188 / 255])[0]).toBeCloseTo(137 - 188, 0);
  });
});
