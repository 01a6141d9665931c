import {
  clausesOf,
  overWords,
  type Paragraph,
} from "@/studies/compare/answers/paragraphs";

const clause = (letters: string[], text = "", readings = [1]) => ({
  letters,
  text,
  tone: "plain" as const,
  measure: "detail_kept",
  readings,
});

const text = (p: Pick<Paragraph, "order" | "faults">) =>
  clausesOf(p as Paragraph)
    .map((c) =>
      `${c.joint}${c.before} ${c.letters.join("+")} ${c.after}`.replace(
        / +$/,
        "",
      ),
    )
    .join("");

describe("a paragraph of the answer", () => {
  it("names ranks in their order, then what speaks against whom", () =>
    expect(
      text({
        order: [
          clause(["D"]),
          clause(["A"]),
          clause(["B", "C"], "no measurable difference"),
        ],
        faults: [
          clause(["B"], "draws bright halos"),
          clause(["C"], "leaves noise in patches"),
        ],
      }),
    ).toBe(
      " D, then  A, then  B+C (no measurable difference); draws bright halos: B; leaves noise in patches: C",
    ));
  it("says nothing beside a rank of one", () =>
    expect(
      text({ order: [clause(["A"], "no measurable difference")], faults: [] }),
    ).toBe(" A"));
  it.each([
    [1, "on one patch"],
    [7, "over 7 patches"],
  ])("says how far it carries: %i", (places, words) =>
    expect(overWords(places)).toBe(words),
  );
});
