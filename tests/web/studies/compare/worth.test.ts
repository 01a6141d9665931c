// Price and speed, as charts and tables have them.
import {
  costText,
  waitText,
  type WorthRow,
  worthTrade,
} from "@/studies/compare/questions/worth/worth";

const ROW: WorthRow = {
  letter: "A",
  amount: 0.0123,
  currency: "EUR",
  said: "",
  seconds: 90,
  by_hand: false,
  size_bytes: 1e6,
  noise: null,
  detail: { value: 80, low: 78, high: 82 },
};

describe("price and speed", () => {
  it.each([
    [{ amount: 0.0123, currency: "EUR" }, "0.012 EUR"],
    [{ amount: 0, currency: "" }, "nothing"],
    [{ amount: null, currency: "" }, "–"],
  ])("tell a cost %o as %s", (row, words) => {
    expect(costText(row)).toBe(words);
  });

  it.each([
    [4.23, "4.2 s"],
    [720, "12 min"],
    [12600, "3.5 h"],
    [null, "–"],
  ])("tell waiting of %d as %s", (seconds, words) => {
    expect(waitText(seconds)).toBe(words);
  });

  it("are drawn where both are known", () => {
    const without = { ...ROW, letter: "B", seconds: null };
    expect(worthTrade([ROW, without], "seconds", "detail").points).toEqual([
      { letter: "A", x: { value: 90, low: 90, high: 90 }, y: ROW.detail },
    ]);
    expect(worthTrade([ROW], "amount", "noise").points).toEqual([]);
  });
});
