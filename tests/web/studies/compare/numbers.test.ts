import type { Answers, Contender, Measure, Reading } from "@/api/types";
import type { NumberRow, Shown } from "@/shared/lib/numbers";
import { apartOf, fromCell } from "@/studies/compare/numbers/apart";
import {
  asCsv,
  asMarkdown,
  asTabs,
  linesOf,
} from "@/studies/compare/numbers/copying";
import { foundIn, matches, split } from "@/studies/compare/numbers/few";

const measure = (id: string, of: Partial<Measure> = {}) =>
  ({
    id,
    name: id,
    unit: "%",
    family: "noise",
    own_of: [],
    digits: 1,
    ...of,
  }) as Measure;
const cell = (id: number, value: number | null, half = 1) =>
  ({
    value,
    text: value === null ? "" : value.toFixed(1),
    spread: value === null ? "" : `±${half}`,
    note: "",
    reason: "",
    reading: {
      id,
      value,
      low: (value ?? 0) - half,
      high: (value ?? 0) + half,
    } as Reading,
  }) as Shown;
const row = (
  id: string,
  cells: [number, Shown][] = [],
  of: Partial<Measure> = {},
): NumberRow => ({
  measure: measure(id, of),
  cells: new Map(cells),
});
const ids = (rows: readonly NumberRow[]) => rows.map((r) => r.measure.id);

describe("numbers shown first", () => {
  const rows = [
    row("psnr"),
    row("ssim"),
    row("noise_luma"),
    row("blotch", [[1, cell(7, 2)]]),
    row("overshoot", [[1, cell(8, 2)]]),
    row("detail_frame"),
    row("mtf50", [], { own_of: ["edge"] }),
  ];
  it("are the type's own, then one of each family, then what was found", () => {
    const { first, rest } = split(rows, "edge", new Set([8]));
    expect(ids(first)).toEqual([
      "mtf50",
      "noise_luma",
      "detail_frame",
      "psnr",
      "overshoot",
    ]);
    expect(ids(rest)).toEqual(["ssim", "blotch"]);
  });
  it("lose nothing and name nothing twice", () => {
    for (const role of ["", "edge", "flat"]) {
      const { first, rest } = split(rows, role, new Set([7]));
      expect([...ids(first), ...ids(rest)].sort()).toEqual(ids(rows).sort());
    }
  });
  it("count as found where a drawback was made from them", () => {
    const sentence = (tone: string, readings: number[]) => ({
      text: "",
      tone,
      measure: "",
      readings,
    });
    const findings = [
      {
        letter: "A",
        sentences: [sentence("bad", [1, 2]), sentence("good", [3])],
      },
      {
        letter: "B",
        sentences: [sentence("plain", [4]), sentence("bad", [2])],
      },
    ] as Answers["findings"];
    expect([...foundIn(findings)]).toEqual([1, 2]);
  });
  it.each([
    ["", true],
    ["lum", true],
    ["noise LUM", true],
    ["noise detail", false],
  ])("are found by words: %j", (looked, wanted) =>
    expect(matches(measure("noise_luma"), looked)).toBe(wanted),
  );
});

describe("differences from a pinned contender", () => {
  it.each([
    [5, 3, 0.5, 0.5, "+2.0", "±0.7", false],
    [3, 5, 0.5, 0.5, "−2.0", "±0.7", false],
    [5, 4.5, 0.6, 0.8, "+0.5", "±1.0", true],
    [4, 4, 0, 0, "+0.0", "±0.0", true],
  ])("of %d from %d", (a, b, ha, hb, text, spread, none) =>
    expect(apartOf(cell(1, a, ha), cell(2, b, hb), 1)).toEqual({
      text,
      spread,
      none,
    }),
  );
  it("are nothing where a number is missing", () => {
    expect(apartOf(cell(1, null), cell(2, 3), 1)).toBeUndefined();
    expect(apartOf(cell(1, 3), undefined, 1)).toBeUndefined();
    expect(fromCell(row("x"), undefined)).toBeUndefined();
  });
  it("of medians have no interval", () => {
    const median = { ...cell(1, 4), reading: undefined } as unknown as Shown;
    expect(apartOf(median, { ...median, value: 3 }, 1)).toEqual({
      text: "+1.0",
      spread: "",
      none: false,
    });
  });
});

describe("a table as text", () => {
  const columns = [
    { id: 1, letter: "A", kind: "treatment", title: "Tool | one" },
    { id: 2, letter: "B", kind: "treatment", title: "Two" },
  ] as unknown as Contender[];
  const lines = linesOf(columns, [
    row("PSNR", [
      [1, cell(1, 30)],
      [2, cell(2, null)],
    ]),
  ]);
  it("has a line a measure, empty where there is no number", () =>
    expect(lines).toEqual([
      ["Measure", "Unit", "A Tool | one", "B Two"],
      ["PSNR", "%", "30.0 ±1", ""],
    ]));
  it("is tabs for a spreadsheet", () =>
    expect(asTabs(lines)).toBe(
      "Measure\tUnit\tA Tool | one\tB Two\nPSNR\t%\t30.0 ±1\t",
    ));
  it("is Markdown whose bars are the table's", () =>
    expect(asMarkdown(lines).split("\n")).toEqual([
      "| Measure | Unit | A Tool \\| one | B Two |",
      "| :--- | :--- | ---: | ---: |",
      "| PSNR | % | 30.0 ±1 |  |",
    ]));
  it("is CSV in which nothing becomes a formula, and numbers stay numbers", () =>
    expect(asCsv([["=1+1", "-2.5", 'a "b"', "-x"]])).toBe(
      `"'=1+1","-2.5","a ""b""","'-x"`,
    ));
});
