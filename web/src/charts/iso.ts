// An axis of ISO values in equal stops.

const BASE = 100;

/** An ISO in stops above 100. */
export const stopsOf = (iso: number): number => Math.log2(iso / BASE);

/** As bodies name it: the rounded values that their scales step through. */
export function isoNamed(stops: number): string {
  return (BASE * 2 ** stops).toLocaleString("en-GB", { maximumFractionDigits: 0 });
}

/** Whole stops about all values, few enough to be read. */
export function isoAxis(isos: readonly number[]) {
  const stops = isos.map(stopsOf);
  const [min, max] = [Math.floor(Math.min(...stops)), Math.ceil(Math.max(...stops))];
  return {
    min: Number.isFinite(min) ? min : 0,
    max: Number.isFinite(max) ? Math.max(max, min + 1) : 1,
    interval: max - min > 6 ? 2 : 1,
    axisLabel: {
      fontFamily: "Spline Sans Mono Variable, monospace",
      fontSize: 11,
      color: "currentColor",
      formatter: isoNamed,
    },
  };
}
