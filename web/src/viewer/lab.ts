// CIELAB of sRGB colours (CIE 15:2018, IEC 61966-2-1), for read-outs.
import { decode } from "./depth";

export type Triple = readonly [number, number, number];

// BT.709 primaries, D65; the rows over their sums, so that white is 1, 1, 1.
const TO_XYZ = [
  [0.4123908, 0.3575843, 0.1804808],
  [0.212639, 0.7151687, 0.0721923],
  [0.0193308, 0.1191948, 0.9505322],
].map((row) => {
  const sum = row.reduce((a, b) => a + b, 0);
  return row.map((v) => v / sum);
});

const f = (t: number): number =>
  t > (6 / 29) ** 3 ? Math.cbrt(t) : ((29 / 6) ** 2 / 3) * t + 4 / 29;

/** L*, a*, b* of encoded values, 0..1. */
export function labOf(encoded: Triple): Triple {
  const linear = encoded.map(decode);
  const [x = 0, y = 0, z = 0] = TO_XYZ.map((row) =>
    f(row.reduce((sum, weight, c) => sum + weight * (linear[c] ?? 0), 0)),
  );
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
