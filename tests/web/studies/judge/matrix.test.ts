import {
  emptyLine,
  evidenceFor,
  linesAt,
  linked,
  markWords,
  scenesOf,
  usesOf,
} from "@/studies/judge/verdicts/matrix";

const line = (use: string, scene = "") => emptyLine(use, scene);
const cell = (use: string, scene = "") => ({
  use,
  scene,
  proposal: `${use}/${scene}`,
  evidence: [],
});

describe("the matrix of verdicts", () => {
  it("has a row for each use that is written or judged, however it is spelt", () => {
    expect(
      usesOf(
        [line("Web"), line(" web ", "night"), line("")],
        [cell(""), cell("print"), cell("WEB")],
      ),
    ).toEqual(["Web", "print"]);
  });
  it("has a column for each kind of scene of the frames, and for those that are written of", () => {
    expect(
      scenesOf(
        [line("web", "night"), line("web", "day"), line("web")],
        ["day", "edges"],
      ),
    ).toEqual(["day", "edges", "night"]);
  });
  it("finds the verdicts of a cell; two of one cell both stay", () => {
    const lines = [line("web"), line("Web", "day"), line("web"), line("print")];
    expect(linesAt(lines, "WEB", "")).toEqual([0, 2]);
    expect(linesAt(lines, "web", "day")).toEqual([1]);
  });
  it("shows what is known for a use itself, else for any use", () => {
    const cells = [cell(""), cell("", "day"), cell("web")];
    expect(evidenceFor(cells, "web", "")?.proposal).toBe("web/");
    expect(evidenceFor(cells, "web", "day")?.proposal).toBe("/day");
    expect(evidenceFor(cells, "print", "")?.proposal).toBe("/");
    expect(evidenceFor(cells, "print", "night")).toBeUndefined();
  });
  it("says marks in words, the better first, and links by a click", () => {
    expect(
      markWords({ C: "worse", D: "better", A: "better", B: "no difference" }),
    ).toBe("A, D better; B no difference; C worse");
    expect(markWords({})).toBe("");
    expect(linked(["a"], "b")).toEqual(["a", "b"]);
    expect(linked(["a", "b"], "a")).toEqual(["b"]);
  });
});
