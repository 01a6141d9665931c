// Price and speed, as charts and tables have them.
import {
  type WorthRow,
  worthTrade,
} from "@/studies/compare/questions/worth/worth";

const ROW: WorthRow = {
  letter: "A",
  amount: 0.0123,
  currency: "EUR",
  said: "",
  costs: "0.012 EUR",
  seconds: 90,
  waits: "1.5 min",
  by_hand: false,
  size_bytes: 1e6,
  noise: null,
  detail: { value: 80, low: 78, high: 82 },
};

describe("price and speed", () => {
  it("are drawn where both are known", () => {
    const without = { ...ROW, letter: "B", seconds: null };
    expect(worthTrade([ROW, without], "seconds", "detail").points).toEqual([
      { letter: "A", x: { value: 90, low: 90, high: 90 }, y: ROW.detail },
    ]);
    expect(worthTrade([ROW], "amount", "noise").points).toEqual([]);
  });
});
