// What a study's bodies say over ISO, as curves and words.
import type { Shape } from "@/api/client";
import type { SeriesFound } from "@/api/types";
import type { ChartCurve } from "@/charts/CurveChart.vue";
import { colourOf } from "@/shared/lib/letters";
import { listed } from "@/shared/lib/words";

export type Basis = Shape["SeriesBasisEnum"];
export type Size = Shape["SeriesSizeEnum"];
export type Ahead = Shape["AheadOut"];
type Bounds = readonly number[];
type Body = SeriesFound["bodies"][number];

export const BASES: readonly { value: Basis; title: string }[] = [
  { value: "as shot", title: "As shot" },
  { value: "equally bright", title: "Equally bright" },
];

const dB = (ratio: number): number => 20 * Math.log10(ratio);

/** Half of an interval. */
const reach = (of: Bounds): number => ((of[2] ?? 0) - (of[1] ?? 0)) / 2;

/** How many times as large a body's ratios are at a size. */
export function gainAt(body: Body, size: Size): number {
  if (size === "pixel") return 1;
  return (size === "common" ? body.common : body.print).measured[0] ?? 1;
}

/** What an ISO of a body counts as; nothing where it can not be told. */
function countsAs(body: Body, iso: number, basis: Basis, first: boolean): number | undefined {
  if (basis === "as shot" || first) return iso;
  return body.lifts.find((l) => l.iso === iso)?.effective_iso;
}

const named = (body: Body) => ({ name: body.letter, colour: colourOf(body.letter) });

/** Signal to noise of every body at a spot, dB. */
export function snrCurves(
  found: SeriesFound,
  spot: number,
  size: Size,
  basis: Basis,
): ChartCurve[] {
  return found.bodies.map((body, i) => {
    const rows = (body.spots[spot]?.readings ?? []).flatMap((r) => {
      const iso = countsAs(body, r.iso, basis, i === 0);
      return iso === undefined ? [] : [{ iso, snr: r.snr }];
    });
    const gain = gainAt(body, size);
    return {
      ...named(body),
      x: rows.map((r) => r.iso),
      y: rows.map((r) => dB(gain * (r.snr[0] ?? 1))),
      error: rows.map((r) => (dB(r.snr[2] ?? 1) - dB(Math.max(r.snr[1] ?? 1, 1e-6))) / 2),
    };
  });
}

/** Each pair of bodies at a spot. */
export function aheadAt(found: SeriesFound, spot: number, size: Size, basis: Basis): Ahead[] {
  const at = size === "pixel" ? "pixel" : "common";
  return found.ahead.filter((a) => a.spot === spot && a.at === at && a.basis === basis);
}

/** The answer in sentences, spots that say the same together. */
export function said(
  found: SeriesFound,
  size: Size,
  basis: Basis,
): { spots: string; said: string }[] {
  const by = new Map<string, string[]>();
  found.spots.forEach((spot, i) => {
    const words = aheadAt(found, i, size, basis).map((a) => a.said);
    const whole = words.join(" ");
    if (whole) by.set(whole, [...(by.get(whole) ?? []), spot.name]);
  });
  return [...by].map(([words, spots]) => ({ spots: listed(spots), said: words }));
}

/** Stops that the first of each pair is ahead by. */
export function stopCurves(found: SeriesFound, pairs: readonly Ahead[]): ChartCurve[] {
  return pairs.map((a) => ({
    name: pairs.length > 1 ? pairNamed(found, a) : "",
    x: a.stops.map((s) => s.iso),
    y: a.stops.map((s) => s.stops[0] ?? 0),
    error: a.stops.map((s) => reach(s.stops)),
  }));
}

export function pairNamed(found: SeriesFound, a: Ahead): string {
  return [a.one, a.other].map((i) => found.bodies[i]?.letter ?? "").join(" over ");
}

type IsoFacts = Body["facts"]["isos"][number];

/** A fact of the sensors over ISO, where it is known. */
export function factCurves(
  bodies: readonly { letter: string; facts: { isos: readonly IsoFacts[] } }[],
  of: (facts: IsoFacts) => Bounds | null,
): ChartCurve[] {
  return bodies.map((body) => {
    const rows = body.facts.isos.flatMap((f) => {
      const value = of(f);
      return value ? [{ iso: f.iso, value }] : [];
    });
    return {
      name: body.letter,
      colour: colourOf(body.letter),
      x: rows.map((r) => r.iso),
      y: rows.map((r) => r.value[0] ?? 0),
      error: rows.map((r) => reach(r.value)),
    };
  });
}

/** What could not be read, each once. */
export function leftOut(found: SeriesFound): string[] {
  const spots = found.bodies.flatMap((body) =>
    body.spots.flatMap((spot, i) =>
      spot.left_out.map((words) => `${body.name}, ${found.spots[i]?.name ?? ""}, ${words}`),
    ),
  );
  return [...new Set([...found.notes, ...spots])];
}
