// Curves of strength series, as charts take them.
import type { Shape } from "@/api/client";
import type { ChartCurve } from "@/charts/CurveChart.vue";
import { colourOf } from "@/shared/lib/letters";

export type Series = Shape["StrengthSeriesOut"];

/** A series is told apart by its first contender's colour, and by its name. */
const named = (series: Series) => ({
  name: series.title,
  colour: colourOf(series.members[0]?.letter ?? ""),
});

const half = (bounds: { low: number; high: number }) => (bounds.high - bounds.low) / 2;

/** How far each setting goes, per cent of what full strength does. */
export const shareCurves = (all: readonly Series[]): ChartCurve[] =>
  all
    .filter((s) => s.steps.length)
    .map((s) => ({
      ...named(s),
      x: s.steps.map((step) => step.setting),
      y: s.steps.map((step) => 100 * step.share.value),
    }));

/** Noise that is left, per cent of the frame's. */
export const noiseCurves = (all: readonly Series[]): ChartCurve[] =>
  all
    .filter((s) => s.noise.length)
    .map((s) => ({
      ...named(s),
      x: s.noise.map((step) => step.setting),
      y: s.noise.map((step) => 100 * step.noise.value),
      error: s.noise.map((step) => 100 * half(step.noise)),
    }));

/** A measure's medians over settings. */
export const measureCurves = (all: readonly Series[], measure: string): ChartCurve[] =>
  all.flatMap((s) => {
    const curve = s.curves.find((c) => c.measure === measure);
    return curve
      ? [
          {
            ...named(s),
            x: curve.points.map((p) => p.setting),
            y: curve.points.map((p) => p.value[0] ?? 0),
          },
        ]
      : [];
  });

/** Detail over the noise that is left: at equal noise, the upper one keeps more. */
export const tradeCurves = (all: readonly Series[]): ChartCurve[] =>
  all.flatMap((s) => {
    const detail = s.curves.find((c) => c.measure === "detail_kept");
    const points = s.noise.flatMap((step) => {
      const kept = detail?.points.find((p) => p.setting === step.setting)?.value[0];
      return kept === undefined ? [] : [{ x: 100 * step.noise.value, y: kept }];
    });
    points.sort((a, b) => a.x - b.x);
    return points.length > 1
      ? [{ ...named(s), x: points.map((p) => p.x), y: points.map((p) => p.y) }]
      : [];
  });

export const secondsCurves = (all: readonly Series[]): ChartCurve[] =>
  all
    .filter((s) => s.seconds.length > 1)
    .map((s) => ({
      ...named(s),
      x: s.seconds.map((p) => p.setting),
      y: s.seconds.map((p) => p.seconds),
    }));

/** "40 (36 to 45) %"; what has no like says so. */
export function settingText(row: Shape["MatchedSettingOut"], unit: string): string {
  if (row.other === null) return "none leaves as much";
  const told = row.other.toFixed(0);
  const wide = row.low !== null && row.high !== null && row.high - row.low >= 1;
  const bounds = wide ? ` (${row.low?.toFixed(0)} to ${row.high?.toFixed(0)})` : "";
  return `${told}${bounds} ${unit}`.trim();
}
