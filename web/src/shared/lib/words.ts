// Facts and numbers as a reviewer reads them.
import type { Contender, Facts, Output, Reading, Scene } from "@/api/types";
import { bytes } from "./formats";

export function shutter(seconds: number): string {
  return seconds >= 0.4 ? `${Number(seconds.toPrecision(2))} s` : `1/${Math.round(1 / seconds)} s`;
}

/** What was photographed with what. */
export function shooting(facts: Facts): string {
  return [
    facts.camera,
    facts.lens,
    facts.iso ? `ISO ${facts.iso.toLocaleString("en-GB")}` : null,
    facts.shutter_s ? shutter(facts.shutter_s) : null,
    facts.aperture ? `f/${Number(facts.aperture.toPrecision(3))}` : null,
  ]
    .filter(Boolean)
    .join(", ");
}

/** What kind of file it is. */
export function fileKind(facts: Facts): string {
  const profile = facts.profile_assumed ? `${facts.profile} assumed` : facts.profile;
  const size = `${facts.width} × ${facts.height} px`;
  const depth = facts.sample === "float" ? `${facts.bits} bit float` : `${facts.bits} bit`;
  return [size, `${depth} ${facts.format}`, profile, bytes(facts.size_bytes)].join(", ");
}

/** How large it prints: at the file's own resolution, and at the usual ones. */
export function printSizes(facts: Facts): string[] {
  return facts.prints.map(
    (p) => `${p.width_cm.toFixed(1)} × ${p.height_cm.toFixed(1)} cm at ${Math.round(p.ppi)} ppi`,
  );
}

/** The same on one line, after the number of pixels. */
export function printSize(facts: Facts): string {
  return `${((facts.width * facts.height) / 1e6).toFixed(1)} MP; prints ${printSizes(facts).join(", ")}`;
}

/** What is known of a scene beforehand. */
export function knownWords(scene: Scene): string {
  const marks = [
    scene.lights ? counted(scene.lights, "light") : null,
    scene.edges ? counted(scene.edges, "edge") : null,
  ].filter(Boolean);
  return marks.length ? `${marks.join(" and ")} known` : "";
}

/** A contender's title as it stands at the head of a column. */
export function titled(contender: Contender): string {
  const given = contender.kind === "truth" || contender.kind === "unprocessed";
  return given ? capital(contender.title) : contender.title;
}

/** Whether the frames themselves are a body's, which others are held against. */
export const heldAgainst = (contender: Contender): boolean =>
  contender.kind === "unprocessed" && !!contender.manner;

/** Whether a contender was entered, as truth and unprocessed are not. */
export const entered = (contender: Contender): boolean =>
  contender.kind === "treatment" || contender.kind === "body";

export function named(contender: Contender): string {
  return [titled(contender), contender.manner].filter(Boolean).join(", ");
}

export function counted(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}

/** "A, B and C". */
export function listed(names: readonly string[]): string {
  const last = names.at(-1) ?? "";
  return names.length > 1 ? `${names.slice(0, -1).join(", ")} and ${last}` : last;
}

export function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

export function fixed(value: number, digits: number): string {
  return value.toFixed(digits).replace("-", "−");
}

/** The wider half of an interval. */
export function half(reading: Reading): number {
  const { value, low, high } = reading;
  return value === null || low === null || high === null ? 0 : Math.max(high - value, value - low);
}

const ORDINALS = ["", "1st", "2nd", "3rd"];

export function placed(reading: Reading): string {
  if (reading.rank === null) return "";
  return (
    (ORDINALS[reading.rank] ?? `${reading.rank}th`) +
    (reading.tied ? ", tied" : "") +
    (reading.unsure ? " ≈" : "")
  );
}

export function lineupWords(output: Output): string[] {
  const l = output.lineup;
  if (!l) return [];
  const scale = l.sx === l.sy ? `${trim(l.sx)}×` : `${trim(l.sx)}× by ${trim(l.sy)}×`;
  const sides = (["left", "top", "right", "bottom"] as const)
    .filter((s) => l[s])
    .map((s) => `${l[s]} px ${s}`);
  return [
    `scale ${scale}`,
    `shift ${fixed(l.dx, 2)}, ${fixed(l.dy, 2)} px`,
    `residual ${l.residual.toFixed(2)} px`,
    ...(sides.length ? [`border ${sides.join(", ")}`] : []),
  ];
}

function trim(value: number): string {
  return String(Number(value.toFixed(5)));
}

/** Whether a line-up is more than a plain scale: worth a second look. */
export function moved(output: Output): boolean {
  const l = output.lineup;
  return !!l && (l.dx !== 0 || l.dy !== 0 || l.left + l.top + l.right + l.bottom > 0);
}

/** Seconds as a person tells them. */
export function lasting(seconds: number): string {
  if (seconds < 9.95) return `${seconds.toFixed(1)} s`;
  if (seconds < 100) return `${Math.round(seconds)} s`;
  return `${Math.round(seconds / 60)} min`;
}
