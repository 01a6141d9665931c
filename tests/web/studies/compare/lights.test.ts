import { among, lightFrom, lightTold } from "@/studies/compare/lights";
import { AS_MADE, type Light } from "@/viewer/light";

const from = (told: Record<string, string>) =>
  lightFrom((name) => told[name] ?? "");

describe("a light in an address", () => {
  it("is as made where the address tells nothing, or nonsense", () => {
    expect(from({})).toEqual(AS_MADE);
    expect(
      from({
        lift: "99",
        plane: "taste",
        gained: "3",
        match: "all",
        shadows: "x",
      }),
    ).toEqual(AS_MADE);
  });
  it("tells only what is not as made", () =>
    expect(lightTold(AS_MADE)).toEqual({}));
  it.each<Partial<Light>>([
    { lift: 3 },
    { lift: -2, plane: "colour", gain: 8 },
    { match: "exposure and tone", shadows: 1.5 },
    { clipped: true },
    { beyond: true, clipped: true, plane: "noise", gain: 32 },
  ])("comes back as it was: %j", (of) => {
    const light = { ...AS_MADE, ...of };
    expect(from(lightTold(light))).toEqual(light);
  });
  it("is one of a few, or what it would be otherwise", () => {
    expect(among([1, 2], "2", 1)).toBe(2);
    expect(among(["a"], "b", "a")).toBe("a");
  });
});
