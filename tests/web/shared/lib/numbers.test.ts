import type { Contender, Measure, Median, Reading, Summary } from "@/api/types";
import {
  type Against,
  answerText,
  medianSpread,
  medianText,
  share,
} from "@/shared/lib/medians";
import {
  fromBest,
  fromReadings,
  fromSummary,
  ordered,
} from "@/shared/lib/numbers";

const measure = (told: Partial<Measure>) =>
  ({
    id: "psnr",
    digits: 1,
    best: "highest",
    target: null,
    ...told,
  }) as Measure;
const PSNR = measure({});
const NOISE = measure({ id: "noise", best: "lowest", digits: 2 });
const DETAIL = measure({
  id: "detail",
  best: "target" as Measure["best"],
  target: 100,
});
const reading = (told: Partial<Reading>) =>
  ({
    measure: "psnr",
    contender: 1,
    value: 30,
    low: 29,
    high: 31,
    rank: 1,
    tied: false,
    unsure: false,
    reason: "",
    concerns: false,
    ...told,
  }) as unknown as Reading;
const column = (id: number, letter: string) => ({ id, letter }) as Contender;

describe("rows of readings", () => {
  it("have a cell for each contender, with value, spread and place", () => {
    const [row] = fromReadings(
      [PSNR],
      [
        reading({}),
        reading({ contender: 2, value: 28, low: 27.5, high: 29, rank: 2 }),
      ],
    );
    expect(row?.cells.get(1)).toMatchObject({
      text: "30.0",
      spread: "±1.0",
      note: "1st",
      reason: "",
    });
    expect(row?.cells.get(2)).toMatchObject({
      text: "28.0",
      spread: "±1.0",
      note: "2nd",
    });
  });
  it("leave out measures that say nothing of any contender, and keep reasons that concern the place", () => {
    const silent = reading({
      measure: "noise",
      value: null,
      rank: null,
      reason: "no flat patch",
    });
    expect(
      fromReadings([PSNR, NOISE], [reading({}), silent]).map(
        (r) => r.measure.id,
      ),
    ).toEqual(["psnr"]);
    const told = { ...silent, concerns: true };
    const rows = fromReadings([NOISE], [told as Reading]);
    expect(rows[0]?.cells.get(1)).toMatchObject({
      value: null,
      text: "",
      spread: "",
      reason: "no flat patch",
    });
  });
});

describe("rows of medians", () => {
  const middle: Median = {
    value: 31.25,
    low: 30,
    high: 32,
    count: 6,
    level: 0.96,
  } as Median;
  it("stand in the column of their letter, with how many places they are of", () => {
    const summary = [
      { measure: "psnr", letter: "B", middle },
    ] as unknown as Summary[];
    const [row] = fromSummary([PSNR, NOISE], summary, [
      column(7, "A"),
      column(8, "B"),
    ]);
    expect(row?.cells.get(8)).toMatchObject({
      text: "31.3",
      note: "30.0 to 32.0 of 6",
    });
    expect(row?.cells.has(7)).toBe(false);
  });
  it("say so where there are too few places for an interval", () => {
    expect(medianSpread({ ...middle, count: 1 }, PSNR)).toBe("1 place");
    expect(medianSpread({ ...middle, level: 0.9 }, PSNR)).toBe(
      "range 30.0 to 32.0",
    );
    expect(medianText(middle, undefined)).toBe("31.25");
  });
});

describe("what is best", () => {
  it.each([
    [PSNR, [28, 30, 29], 30],
    [NOISE, [0.3, 0.1, 0.2], 0.1],
    [DETAIL, [154, 92, 70], 92],
  ] as const)("%#", (m, values, best) => {
    expect([...values].sort((a, b) => fromBest(m, a) - fromBest(m, b))[0]).toBe(
      best,
    );
  });
  it("orders columns, the pinned one first, those without a value last", () => {
    const columns = [
      column(1, "A"),
      column(2, "B"),
      column(3, "C"),
      column(4, "D"),
    ];
    const [row] = fromReadings(
      [PSNR],
      [
        reading({ value: 28 }),
        reading({ contender: 2, value: 31 }),
        reading({ contender: 4, value: 30 }),
      ],
    );
    const letters = (pinned: string, by = row) =>
      ordered(columns, by, pinned)
        .map((c) => c.letter)
        .join("");
    expect(letters("")).toBe("BDAC");
    expect(letters("C")).toBe("CBDA");
    expect(
      ordered(columns, undefined, "")
        .map((c) => c.letter)
        .join(""),
    ).toBe("ABCD");
    expect(
      ordered(columns, undefined, "D")
        .map((c) => c.letter)
        .join(""),
    ).toBe("DABC");
  });
});

describe("answers", () => {
  const against = (told: object) =>
    ({
      answer: "better",
      places: 22,
      same: 20,
      counts: {},
      ...told,
    }) as unknown as Against;
  it("count the places that agree, or tell what there was of each", () => {
    expect(answerText(against({}))).toBe("better, 20 of 22");
    expect(answerText(against({ places: 1, same: 1 }))).toBe("better");
    expect(
      answerText(
        against({ answer: "it depends", counts: { better: 9, worse: 13 } }),
      ),
    ).toBe("it depends: better 9, worse 13");
  });
  it("have a bar whose length is a share of the longest, whichever side of zero", () => {
    expect(share(5, [5, 10])).toBe(0.5);
    expect(share(-5, [-5, 10])).toBe(0.5);
    expect(share(-10, [-10, 5])).toBe(1);
    expect(share(0, [0, 0])).toBe(0);
  });
});
