import { decode, encode } from "@/viewer/depth";
import { matcherFor } from "@/viewer/matching";

describe("brightness taken off", () => {
  const tone = { stops: 1, frame: [0, 0.5, 1], output: [0, 0.25, 1] };
  it("is nothing where nothing is asked for or known", () => {
    expect(matcherFor("none", tone)).toBeNull();
    expect(matcherFor("exposure", null)).toBeNull();
    expect(matcherFor("exposure", { ...tone, stops: null })).toBeNull();
    const unknown = { stops: null, frame: [], output: [] };
    expect(matcherFor("exposure and tone", unknown)).toBeNull();
  });
  it("halves light for an output a stop brighter", () => {
    const back = matcherFor("exposure", tone)!;
    for (const v of [0.02, 0.5, 1, 1.3])
      expect(back(v)).toBeCloseTo(encode(decode(v) / 2), 12);
  });
  it("brings a tone curve back to the frame's, ends included, and never turns it round", () => {
    const back = matcherFor("exposure and tone", tone)!;
    expect([back(0), back(0.25), back(1)]).toEqual([0, 0.5, 1]);
    for (let i = 1; i <= 400; i++)
      expect(back(i / 400)).toBeGreaterThan(back((i - 1) / 400));
  });
  it("keeps the distance beyond the ends of a curve, and beyond black and white", () => {
    const back = matcherFor("exposure and tone", {
      stops: 0,
      frame: [0.3, 0.6],
      output: [0.2, 0.5],
    })!;
    for (const [v, wanted] of [
      [0, 0.1],
      [0.8, 0.9],
      [1.2, 1.3],
      [-0.1, 0],
    ] as const)
      expect(back(v)).toBeCloseTo(wanted, 12);
  });
  it("gives the middle of tones that became one", () => {
    const level = {
      stops: 0,
      frame: [0, 0.2, 0.6, 1],
      output: [0, 0.4, 0.4, 1],
    };
    expect(matcherFor("exposure and tone", level)!(0.4)).toBeCloseTo(0.4, 12);
  });
});
