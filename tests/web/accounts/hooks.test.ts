import { lastText, type Telling, underWay } from "@/accounts/hooks";

const telling: Telling = {
  id: 1,
  event: "readings ready",
  created: "2026-11-30T10:00:00Z",
  due: "2026-11-30T10:00:00Z",
  arrived: null,
  tries: 0,
  status: null,
  problem: "",
};

describe("what became of what a program was told", () => {
  test.each<[string, Partial<Telling> | undefined, RegExp, boolean]>([
    ["nothing", undefined, /^nothing was told yet$/, false],
    ["under way", {}, /^being told$/, true],
    [
      "arrived",
      { arrived: "2026-11-30T10:00:01Z", due: null, tries: 1, status: 204 },
      /^“readings ready” arrived 30 Nov/,
      false,
    ],
    [
      "to be tried again",
      { tries: 1, status: 500, problem: "it answered 500" },
      /did not arrive: it answered 500; 1 try, next try 30 Nov/,
      false,
    ],
    [
      "given up",
      { tries: 7, due: null, problem: "build gave no answer" },
      /build gave no answer; 7 tries, given up$/,
      false,
    ],
  ])("%s", (_, changes, words, waits) => {
    const of = changes && { ...telling, ...changes };
    expect(lastText(of)).toMatch(words);
    expect(underWay(of)).toBe(waits);
  });
});
