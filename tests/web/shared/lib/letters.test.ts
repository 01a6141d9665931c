import { colourOf } from "@/shared/lib/letters";

describe("a letter's colour", () => {
  it("is none for truth, unprocessed and no letter: these are outlined", () => {
    expect(["T", "U", "", "AA", "a"].map(colourOf)).toEqual([
      "",
      "",
      "",
      "",
      "",
    ]);
  });
  it("differs between any eight neighbours, and comes again after them", () => {
    const letters = [..."ABCDEFGHIJKLMNOPQRSVWXYZ"];
    for (let i = 0; i + 8 <= letters.length; i++)
      expect(new Set(letters.slice(i, i + 8).map(colourOf)).size).toBe(8);
    expect(colourOf("I")).toBe(colourOf("A"));
    // The letters skip T and U, so S and V are neighbours.
    expect(colourOf("V")).not.toBe(colourOf("S"));
  });
  it("is dark enough for white letters or light enough for black: one of both has 4.5 to 1", () => {
    // Relative luminance and contrast of WCAG 2.2.
    const luminance = (hex: string) =>
      [1, 3, 5]
        .map((i) => parseInt(hex.slice(i, i + 2), 16) / 255)
        .map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4))
        .reduce((sum, v, i) => sum + v * [0.2126, 0.7152, 0.0722][i]!, 0);
    for (const letter of "ABCDEFGH") {
      const l = luminance(colourOf(letter));
      expect(
        Math.max(1.05 / (l + 0.05), (l + 0.05) / 0.05),
      ).toBeGreaterThanOrEqual(4.5);
    }
  });
});
