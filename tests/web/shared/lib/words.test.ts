import type { Contender, Facts, Output, Reading, Scene } from "@/api/types";
import { colourOf } from "@/shared/lib/letters";
import {
  counted,
  entered,
  fileKind,
  fixed,
  half,
  knownWords,
  lasting,
  lineupWords,
  moved,
  named,
  placed,
  printSize,
  shooting,
  shutter,
  titled,
} from "@/shared/lib/words";

const reading = (told: Partial<Reading>) =>
  ({
    value: 10,
    low: 9,
    high: 12,
    rank: 1,
    tied: false,
    unsure: false,
    ...told,
  }) as Reading;
const contender = (told: Partial<Contender>) =>
  ({ kind: "treatment", title: "sedgewash", manner: "", ...told }) as Contender;

describe("readings in words", () => {
  it.each([
    [{ rank: 1 }, "1st"],
    [{ rank: 2, tied: true }, "2nd, tied"],
    [{ rank: 3, unsure: true }, "3rd ≈"],
    [{ rank: 4, tied: true, unsure: true }, "4th, tied ≈"],
    [{ rank: 11 }, "11th"],
    [{ rank: null }, ""],
  ])("%o stands %s", (told, words) =>
    expect(placed(reading(told))).toBe(words),
  );
  it("has the wider half of its interval, and none without one", () => {
    expect(half(reading({}))).toBe(2);
    expect(half(reading({ low: 5 }))).toBe(5);
    expect(half(reading({ low: null }))).toBe(0);
    expect(half(reading({ value: null }))).toBe(0);
  });
  it("uses the real minus", () => {
    expect(fixed(-1.256, 2)).toBe("−1.26");
    expect(fixed(1.2, 0)).toBe("1");
  });
});

describe("files in words", () => {
  const facts = {
    camera: "Corvane Quill 24",
    lens: null,
    iso: 12800,
    shutter_s: 0.008,
    aperture: 2.8284,
    width: 6000,
    height: 4000,
    bits: 16,
    sample: "unsigned",
    format: "TIFF",
    profile: "sRGB",
    profile_assumed: true,
    size_bytes: 129_000_000,
    prints: [{ width_cm: 50.8, height_cm: 33.866, ppi: 300 }],
  } as unknown as Facts;
  it("tells what it was photographed with, as far as it is known", () => {
    expect(shooting(facts)).toBe(
      "Corvane Quill 24, ISO 12,800, 1/125 s, f/2.83",
    );
    expect(
      shooting({
        ...facts,
        camera: null,
        iso: null,
        shutter_s: null,
        aperture: null,
      }),
    ).toBe("");
  });
  it("tells what kind it is and how large it prints", () => {
    expect(fileKind(facts)).toBe(
      "6000 × 4000 px, 16 bit TIFF, sRGB assumed, 129 MB",
    );
    expect(
      fileKind({ ...facts, sample: "float", bits: 32, profile_assumed: false }),
    ).toContain("32 bit float TIFF, sRGB,");
    expect(printSize(facts)).toBe("24.0 MP; prints 50.8 × 33.9 cm at 300 ppi");
  });
  it.each([
    [30, "30 s"],
    [0.5, "0.5 s"],
    [0.4, "0.4 s"],
    [0.25, "1/4 s"],
    [1 / 3, "1/3 s"],
    [0.000125, "1/8000 s"],
  ])("a shutter of %d s is told as %s", (seconds, words) =>
    expect(shutter(seconds)).toBe(words),
  );
  it.each([
    [0.04, "0.0 s"],
    [9.94, "9.9 s"],
    [9.96, "10 s"],
    [99, "99 s"],
    [130, "2 min"],
  ])("%d s last %s", (seconds, words) => expect(lasting(seconds)).toBe(words));
});

describe("contenders in words", () => {
  it("begins truth and unprocessed with a capital, tools as they are written", () => {
    expect(titled(contender({ kind: "truth", title: "truth" }))).toBe("Truth");
    expect(titled(contender({}))).toBe("sedgewash");
    expect(named(contender({ manner: "strength 60 %" }))).toBe(
      "sedgewash, strength 60 %",
    );
    expect(named(contender({}))).toBe("sedgewash");
  });
  it("counts as entered what somebody chose", () => {
    const kinds = ["treatment", "body", "truth", "unprocessed"] as const;
    expect(kinds.map((kind) => entered(contender({ kind })))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
  it("has a colour of its own for each of the first eight letters, and none for T and U", () => {
    expect(new Set([..."ABCDEFGH"].map(colourOf)).size).toBe(8);
    expect(colourOf("A")).toBe(colourOf("I"));
    for (const letter of ["T", "U", "", "?"]) expect(colourOf(letter)).toBe("");
  });
});

describe("line-ups in words", () => {
  const lineup = {
    sx: 2,
    sy: 2,
    dx: -0.5,
    dy: 0,
    left: 0,
    top: 3,
    right: 0,
    bottom: 0,
    residual: 0.031,
  };
  const output = (told: object | null) =>
    ({ lineup: told }) as unknown as Output;
  it("tells scale, shift, what is left over and a border", () => {
    expect(lineupWords(output(lineup))).toEqual([
      "scale 2×",
      "shift −0.50, 0.00 px",
      "residual 0.03 px",
      "border 3 px top",
    ]);
    expect(lineupWords(output({ ...lineup, sy: 2.00001, top: 0 }))[0]).toBe(
      "scale 2× by 2.00001×",
    );
    expect(lineupWords(output(null))).toEqual([]);
  });
  it("is worth a look where something was shifted or has a border", () => {
    expect(moved(output(lineup))).toBe(true);
    expect(moved(output({ ...lineup, dx: 0, top: 0 }))).toBe(false);
    expect(moved(output(null))).toBe(false);
  });
});

describe("counting", () => {
  it("has one and many", () => {
    expect([
      counted(0, "edge"),
      counted(1, "edge"),
      counted(2, "edge"),
      counted(2, "body", "bodies"),
    ]).toEqual(["0 edges", "1 edge", "2 edges", "2 bodies"]);
    expect(knownWords({ lights: 3, edges: 1 } as Scene)).toBe(
      "3 lights and 1 edge known",
    );
    expect(knownWords({ lights: 0, edges: 0 } as Scene)).toBe("");
  });
});
