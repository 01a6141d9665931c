import { gapsOf } from "@/studies/set-up/plan";

const whole = { study: 1, name: "plan.toml", looked: null, looking: false };
const nothing = { missing: [], other_truth: [], other_measures: [] };

test.each([
  [nothing, []],
  [
    { ...nothing, missing: ["Loft (l.tif)"] },
    [["Not on this bench", ["Loft (l.tif)"]]],
  ],
  [
    { missing: [], other_truth: ["Roofs"], other_measures: ["psnr", "ssim"] },
    [
      ["another truth", ["Roofs"]],
      ["Measures of another version", ["psnr", "ssim"]],
    ],
  ],
])(
  "a plan's page says what the bench lacks of it, and nothing else: %j",
  (lacks, want) => {
    const gaps = gapsOf({ ...whole, ...lacks });
    expect(gaps.map((g) => g.names)).toEqual(want.map(([, names]) => names));
    want.forEach(([words], at) => expect(gaps[at]?.says).toContain(words));
  },
);
