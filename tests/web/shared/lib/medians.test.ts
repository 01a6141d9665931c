import type { Measure, Median } from "@/api/types";
import {
  type Against,
  answerText,
  medianSpread,
  medianText,
  share,
} from "@/shared/lib/medians";

const measure = { digits: 1 } as Measure;
const middle = (told: Partial<Median>): Median =>
  ({
    value: 3.24,
    low: 2.96,
    high: 3.5,
    level: 0.95,
    count: 9,
    ...told,
  }) as Median;

describe("a median over places", () => {
  it("has the digits of its measure, two where that is not known", () => {
    expect(medianText(middle({}), measure)).toBe("3.2");
    expect(medianText(middle({}), undefined)).toBe("3.24");
  });
  it.each<[Partial<Median>, string]>([
    [{}, "3.0 to 3.5"],
    [{ level: 0.97 }, "3.0 to 3.5"],
    // Fewer than six places have no interval of 95 %: what is told is their range.
    [{ level: 0.875, count: 4 }, "range 3.0 to 3.5"],
    [{ count: 1, level: 0 }, "1 place"],
  ])("%j is told with %s", (told, words) =>
    expect(medianSpread(middle(told), measure)).toBe(words),
  );
});

describe("how a contender stands against another", () => {
  const against = (told: Partial<Against>): Against =>
    ({
      answer: "better",
      places: 22,
      same: 20,
      counts: {},
      ...told,
    }) as Against;
  it.each<[Partial<Against>, string]>([
    [{}, "better, 20 of 22"],
    [{ places: 1, same: 1 }, "better"],
    [{ answer: "no difference", places: 3, same: 3 }, "no difference, 3 of 3"],
    [
      { answer: "it depends", counts: { better: 12, worse: 10 } },
      "it depends: better 12, worse 10",
    ],
  ])("%j is told as %s", (told, words) =>
    expect(answerText(against(told))).toBe(words),
  );
});

describe("the bar under a number", () => {
  it.each<[number, number[], number]>([
    [2, [1, 2, 4], 0.5],
    [4, [1, 2, 4], 1],
    [-1, [-1, -4], 0.25],
    [-2, [-2, 4], 0.5],
    [0, [0, 0], 0],
    [3, [], 0],
  ])("%d among %j is %d of the longest", (value, values, wanted) =>
    expect(share(value, values)).toBe(wanted),
  );
});
