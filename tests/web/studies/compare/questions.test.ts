// What is asked of a whole study: words, curves and rows.
import {
  readingRows,
  valuesText,
  WAYS,
} from "@/studies/compare/questions/level/level";
import {
  changeText,
  spreadText,
} from "@/studies/compare/questions/releases/releases";
import {
  QUESTIONS,
  shareText,
  titleOf,
} from "@/studies/compare/questions/questions";
import {
  measureCurves,
  noiseCurves,
  secondsCurves,
  type Series,
  settingText,
  shareCurves,
  tradeCurves,
} from "@/studies/compare/questions/strength/curves";

const bounds = (value: number, half = 0) => ({
  value,
  low: value - half,
  high: value + half,
});
const step = (setting: number, share: number) => ({
  setting,
  share: bounds(share),
  spread: 0,
  even: true,
  cleaned: null,
  untouched: null,
});

const SERIES: Series = {
  title: "Sedgewash 3.0",
  name: "strength",
  unit: "%",
  members: [
    { setting: 20, letter: "A" },
    { setting: 60, letter: "B" },
  ],
  steps: [step(20, 0.2), step(60, 0.7)],
  noise: [
    { setting: 20, noise: bounds(0.8, 0.1) },
    { setting: 60, noise: bounds(0.3, 0.05) },
  ],
  curves: [
    {
      measure: "detail_kept",
      points: [
        { setting: 20, value: [95, 94, 96] },
        { setting: 60, value: [80, 79, 81] },
      ],
    },
  ],
  seconds: [{ setting: 20, seconds: 1 }],
  problems: [],
  advice: "",
  said: [],
};

describe("questions of a whole study", () => {
  it("have a title each, and others are called by their names", () => {
    for (const { about, title } of QUESTIONS)
      expect(titleOf(about)).toBe(title);
    expect(titleOf("order")).toBeTruthy();
  });

  it.each([
    [0, "0 %"],
    [0.0004, "under 0.1 %"],
    [0.0134, "1.3 %"],
    [0.5, "50 %"],
  ])("tell a share of %d as %s", (share, words) => {
    expect(shareText(share)).toBe(words);
  });
});

describe("strength series", () => {
  it("are curves over their settings, in their first contender’s colour", () => {
    const [share] = shareCurves([SERIES]);
    expect(share).toMatchObject({
      name: "Sedgewash 3.0",
      x: [20, 60],
      y: [20, 70],
    });
    expect(share?.colour).toMatch(/^#|var/);
    const [noise] = noiseCurves([SERIES]);
    expect(noise?.y).toEqual([80, 30]);
    expect(noise?.error?.map((e) => Math.round(e))).toEqual([10, 5]);
    expect(measureCurves([SERIES], "detail_kept")[0]?.y).toEqual([95, 80]);
    expect(measureCurves([SERIES], "overshoot")).toEqual([]);
  });

  it("lie over the noise that is left from the least to the most", () => {
    expect(tradeCurves([SERIES])[0]).toMatchObject({
      x: [30, 80],
      y: [80, 95],
    });
    expect(tradeCurves([{ ...SERIES, noise: [] }])).toEqual([]);
  });

  it("have no speed of one time, and no share without steps", () => {
    expect(secondsCurves([SERIES])).toEqual([]);
    expect(shareCurves([{ ...SERIES, steps: [] }])).toEqual([]);
  });

  it.each([
    [{ other: 70.2, low: 65, high: 76 }, "70 (65 to 76) %"],
    [{ other: 70.2, low: 70, high: 70.5 }, "70 %"],
    [{ other: null, low: null, high: null }, "none leaves as much"],
  ])("tell the other’s setting %o", (row, words) => {
    expect(settingText({ setting: 40, ...row }, "%")).toBe(words);
  });
});

describe("one level", () => {
  it("has a row for what was measured of one at least", () => {
    const row = { measure: "noise_luma", patch: "Sky", unit: "8-bit levels" };
    expect(
      readingRows([
        { ...row, before: 1.23456, made: 2, other: null },
        { ...row, before: null, made: null, other: null },
      ]),
    ).toEqual([
      {
        what: "Sky, noise, brightness, 8-bit levels",
        values: ["1.23", "2.00", "–"],
      },
    ]);
  });
});

describe("levels", () => {
  it("names every way as a choice, and what was done", () => {
    expect(Object.keys(WAYS)).toEqual([
      "sharpness",
      "deconvolution",
      "noise",
      "contrast",
      "size",
    ]);
    for (const { title, asks, does, done } of Object.values(WAYS))
      for (const words of [title, asks, does, done]) expect(words).not.toBe("");
  });

  it("tells a method's settings in digits that mean something", () => {
    expect(
      valuesText({ kernel: "gaussian", size: 0.812345, balance: 0.00123456 }),
    ).toBe("kernel gaussian, size 0.812, balance 0.00123");
  });
});

describe("release against release", () => {
  const cell = {
    frame: 1,
    name: "Yard",
    key: "k",
    same: false,
    changed: 0.42,
    rms: 3.21,
    most: 9.9,
    moved: 0,
    sizes: null,
    problem: "",
  };

  it.each([
    [
      {},
      "42 % of the pixels differ by a level of 255 or more; root mean square 3.21 levels",
    ],
    [{ same: true }, "The same file to the pixel."],
    [{ problem: "does not lie on its frame" }, "does not lie on its frame"],
    [{ moved: 1.5 }, "It lies 1.50 px otherwise."],
    [
      {
        sizes: [
          [10, 20],
          [20, 40],
        ],
      },
      "It is 20 × 40 px after 10 × 20 px.",
    ],
  ])("%j", (told, words) => {
    expect(changeText({ ...cell, ...told })).toContain(words);
  });

  it("tells a range only where runs differ", () => {
    const put = (v: number) => v.toFixed(1);
    expect(spreadText({ value: 1, low: 1, high: 1 }, put)).toBe("1.0");
    expect(spreadText({ value: 1, low: 0.5, high: 2 }, put)).toBe(
      "1.0 (0.5 to 2.0)",
    );
    expect(spreadText(null, put)).toBe("–");
  });
});
