import type { SeriesFound } from "@/api/types";
import {
  aheadAt,
  factCurves,
  gainAt,
  leftOut,
  pairNamed,
  said,
  snrCurves,
  stopCurves,
} from "@/studies/compare/series/series";

const reading = (iso: number, snr: number, hue = "") => ({
  iso,
  files: [`${iso}-1.dng`, `${iso}-2.dng`],
  light: [0.2, 0.19, 0.21],
  snr: [snr, snr * 0.9, snr * 1.1],
  red: 0,
  blue: 0,
  hue,
});
const body = (
  letter: string,
  gain: number,
  readings: ReturnType<typeof reading>[],
) => ({
  name: `Body ${letter}`,
  letter,
  pixels: 24e6,
  common: { white: gain, measured: [gain, gain, gain] },
  print: { white: 2 * gain, measured: [2 * gain, 2 * gain, 2 * gain] },
  said: [],
  lifts:
    letter === "A"
      ? [
          {
            iso: 100,
            stops: [1, 1, 1],
            differ: 0,
            exposure: 0,
            effective_iso: 50,
          },
        ]
      : [],
  spots: [{ left_out: [`ISO 6,400: too dark (${letter})`], readings }],
  facts: { isos: [], steps: [], nothing_gained_from: null, said: "" },
});
const ahead = (basis: string, at: string) => ({
  one: 0,
  other: 1,
  spot: 0,
  basis,
  at,
  said: `${basis} at ${at}`,
  stops: [{ iso: 100, stops: [0.5, 0.4, 0.6], alike: 70, shot: 100 }],
});
const found = {
  bodies: [
    body("U", 1, [reading(100, 100), reading(200, 70)]),
    body("A", 2, [reading(100, 50), reading(200, 35, "green")]),
  ],
  spots: [{ name: "Lit", role: "flat", patch: 3 }],
  ahead: [
    ahead("as shot", "pixel"),
    ahead("as shot", "common"),
    ahead("equally bright", "pixel"),
    ahead("equally bright", "common"),
  ],
  why: [],
  notes: ["A: black is cut off."],
} as unknown as SeriesFound;

describe("bodies over ISO", () => {
  it("tells ratios in dB at the size that is asked for", () => {
    const [u, a] = snrCurves(found, 0, "pixel", "as shot");
    expect([u?.name, u?.x]).toEqual(["U", [100, 200]]);
    expect(u?.y[0]).toBeCloseTo(40, 6);
    expect(a?.y[0]).toBeCloseTo(33.979, 3);
    expect(snrCurves(found, 0, "common", "as shot")[1]?.y[0]).toBeCloseTo(
      40,
      6,
    );
    expect(snrCurves(found, 0, "print", "as shot")[1]?.y[0]).toBeCloseTo(
      46.02,
      2,
    );
    expect(u?.error?.[0]).toBeCloseTo(10 * Math.log10(1.1 / 0.9), 6);
  });
  it("counts a body where it is as bright as the first, and leaves out what can not be told", () => {
    const [u, a] = snrCurves(found, 0, "pixel", "equally bright");
    expect(u?.x).toEqual([100, 200]);
    expect(a?.x).toEqual([50]);
  });
  it.each([
    ["pixel", "as shot", "as shot at pixel"],
    ["print", "equally bright", "equally bright at common"],
    ["common", "as shot", "as shot at common"],
  ] as const)("finds who is ahead at %s, %s", (size, basis, said) => {
    expect(aheadAt(found, 0, size, basis).map((a) => a.said)).toEqual([said]);
    expect(aheadAt(found, 1, size, basis)).toEqual([]);
  });
  it("says what spots say alike once", () => {
    const twice = {
      ...found,
      spots: [...found.spots, { name: "Dark", role: "shadow", patch: 4 }],
      ahead: [...found.ahead, ...found.ahead.map((a) => ({ ...a, spot: 1 }))],
    };
    expect(said(twice, "common", "as shot")).toEqual([
      { spots: "Lit and Dark", said: "as shot at common" },
    ]);
    expect(said({ ...found, ahead: [] }, "common", "as shot")).toEqual([]);
  });
  it("draws stops with half of their interval, and names a pair by its letters", () => {
    const pairs = aheadAt(found, 0, "common", "as shot");
    const [curve] = stopCurves(found, pairs);
    expect([curve?.x, curve?.y]).toEqual([[100], [0.5]]);
    expect(curve?.error?.[0]).toBeCloseTo(0.1, 9);
    expect(pairs[0] && pairNamed(found, pairs[0])).toBe("U over A");
  });
  it("leaves out of a curve of facts what is not known", () => {
    const isos = [
      { iso: 100, read_noise: null },
      { iso: 200, read_noise: [3, 2.8, 3.4] },
    ];
    const [curve] = factCurves(
      [{ letter: "A", facts: { isos } }] as never,
      (f) => f.read_noise,
    );
    expect([curve?.x, curve?.y]).toEqual([[200], [3]]);
    expect(curve?.error?.[0]).toBeCloseTo(0.3, 9);
  });
  it("says what was left out, each once", () => {
    expect(gainAt(found.bodies[1] as never, "pixel")).toBe(1);
    expect(
      leftOut({ ...found, notes: [...found.notes, ...found.notes] }),
    ).toEqual([
      "A: black is cut off.",
      "Body U, Lit, ISO 6,400: too dark (U)",
      "Body A, Lit, ISO 6,400: too dark (A)",
    ]);
  });
});
