// A body's measured sensor in words, against what was typed in, and as a file.
import type { SensorFacts } from "@/api/types";
import { csvOf } from "@/charts/csv";

type Bounds = readonly number[] | null;
type At = SensorFacts["isos"][number];

/** A value that is told without bounds. */
const alone = (value: number | null): Bounds => (value === null ? null : [value, value, value]);
const worse = (a: number | null, b: number | null): number | null =>
  a === null || b === null ? null : Math.max(a, b);

/** Half of an interval in words; empty where none is told. */
export function halfTold(of: readonly number[], digits: number): string {
  const reach = ((of[2] ?? 0) - (of[1] ?? 0)) / 2;
  return reach > 0 ? `±${reach.toFixed(digits)}` : "";
}

export const COLUMNS: readonly {
  title: string;
  unit: string;
  digits: number;
  of: (at: At) => Bounds;
}[] = [
  { title: "Gain", unit: "codes an e−", digits: 3, of: (at) => at.gain },
  { title: "Read noise", unit: "e−", digits: 2, of: (at) => at.read_noise },
  { title: "Top", unit: "e−", digits: 0, of: (at) => at.top },
  { title: "S/N of 18 %", unit: "", digits: 1, of: (at) => at.snr },
  { title: "Range", unit: "EV, S/N 1", digits: 2, of: (at) => at.ranges.one },
  { title: "Range", unit: "EV, S/N 10", digits: 2, of: (at) => at.ranges.ten },
  {
    title: "Uneven",
    unit: "%",
    digits: 2,
    of: (at) => at.response && at.response.map((v) => 100 * v),
  },
  { title: "Dark pattern", unit: "e−", digits: 2, of: (at) => at.dark },
  { title: "Rows", unit: "e−", digits: 2, of: (at) => alone(at.rows) },
  { title: "Columns", unit: "e−", digits: 2, of: (at) => alone(at.columns) },
  {
    title: "Bands",
    unit: "e−",
    digits: 2,
    of: (at) => alone(worse(at.band_rows, at.band_columns)),
  },
  {
    title: "Hot",
    unit: "ppm",
    digits: 0,
    of: (at) => alone(at.hot === null ? null : 1e6 * at.hot),
  },
  { title: "Black off by", unit: "codes", digits: 2, of: (at) => alone(at.black_moved) },
  { title: "Black wanders by", unit: "codes", digits: 2, of: (at) => alone(at.black_wanders) },
];

/** Columns of which anything is known. */
export function columnsOf(facts: SensorFacts) {
  return COLUMNS.filter((c) => facts.isos.some((at) => c.of(at)));
}

/** What is not known at which ISO, each reason once with the ISO values that it holds for. */
export function lacking(facts: SensorFacts): string[] {
  const by = new Map<string, number[]>();
  for (const at of facts.isos)
    for (const why of [
      at.reason,
      at.no_well && `full well: ${at.no_well}`,
      at.no_pattern && `fixed pattern: ${at.no_pattern}`,
      ...at.doubts,
    ])
      if (why) by.set(why, [...(by.get(why) ?? []), at.iso]);
  return [...by].map(([why, isos]) => {
    const where =
      isos.length === facts.isos.length
        ? "at every ISO"
        : `at ISO ${isos.map((i) => i.toLocaleString("en-GB")).join(", ")}`;
    return `${why.charAt(0).toUpperCase()}${why.slice(1)} (${where}).`;
  });
}

/** Curves of several bodies: read noise, and range down to where signal and noise are equal. */
export function besides(bodies: readonly { name: string; facts: SensorFacts }[]) {
  const curves = (of: (at: At) => Bounds) =>
    bodies.map(({ name, facts }) => {
      const rows = facts.isos.flatMap((at) => {
        const value = of(at)?.[0];
        return value === undefined ? [] : [{ iso: at.iso, value }];
      });
      return { name, x: rows.map((r) => r.iso), y: rows.map((r) => r.value) };
    });
  return [
    { title: "Read noise", unit: "electrons", curves: curves((at) => at.read_noise) },
    { title: "Dynamic range", unit: "EV", curves: curves((at) => at.ranges.one) },
  ];
}

/** All of it as a file. */
export function sensorCsv(name: string, facts: SensorFacts): string {
  const columns = columnsOf(facts);
  const head = [
    "body",
    "ISO",
    ...columns.flatMap((c) => [`${c.title} ${c.unit}`.trim(), "low", "high"]),
    "files",
  ];
  const rows = facts.isos.map((at) => [
    name,
    String(at.iso),
    ...columns.flatMap((c) => (c.of(at) ?? ["", "", ""]).map(String)),
    at.files.join(" "),
  ]);
  return csvOf([head, ...rows]);
}
