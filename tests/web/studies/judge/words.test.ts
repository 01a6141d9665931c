import {
  agreementWords,
  neededWords,
  partingsOf,
  percent,
  prospectWords,
  withBounds,
} from "@/studies/judge/sittings/words";

const told = {
  answers: 120,
  decisive: 81,
  of_a_pair: 27,
  tells: 0.77,
  needed_67: 72,
  needed_60: 199,
  seconds: 320,
};

test("what a sitting can tell is said before it is begun", () => {
  expect(prospectWords(told, 3)).toBe(
    "3 judges give 120 answers, about 5 min each. About 27 for each pair of contenders are decisive: they tell 77 % from 23 % with 8 of 10 chance.",
  );
  expect(prospectWords({ ...told, tells: null }, 1)).toContain(
    "One judge gives",
  );
  expect(prospectWords({ ...told, tells: null }, 1)).toContain("too few");
  expect(prospectWords({ ...told, decisive: 0 }, 2)).not.toContain("decisive");
  expect(neededWords(told)).toContain(
    "72 decisive answers to tell 67 from 33 %, 199",
  );
});

test("shares have their bounds", () => {
  expect(percent(0.666)).toBe("67 %");
  expect(withBounds({ value: 0.71, low: 0.62, high: 0.79 })).toBe(
    "71 % (62 to 79)",
  );
});

test.each([
  [0.9, "mostly with"],
  [0.3, "somewhat with"],
  [0, "neither"],
  [-0.5, "against"],
])("a gamma of %d goes %s the choices", (gamma, words) => {
  expect(agreementWords(gamma)).toContain(words);
});

test("a pair at a spot stands once, with every measure that says otherwise", () => {
  const share = (low: number) => ({ value: 0.8, low, high: 0.9 });
  const parting = (spot: number, low: number) => ({
    spot,
    chosen: "B",
    measured: "A",
    share: share(low),
    apart: 1,
  });
  const found = partingsOf([
    { name: "SSIM", partings: [parting(0, 0.6), parting(1, 0.7)] },
    { name: "PSNR", partings: [parting(0, 0.6)] },
    { name: "MTF50", partings: [] },
  ]);
  expect(found.map((p) => [p.spot, p.measures])).toEqual([
    [1, ["SSIM"]],
    [0, ["SSIM", "PSNR"]],
  ]);
});
