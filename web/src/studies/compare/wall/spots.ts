// The wall's rows: patches, or one spot on every frame; which measure is told of each.
import type { Frame, Measure, Patch, Reading } from "@/api/types";

export interface Spot {
  key: string;
  title: string;
  sub: string;
  role: string;
  frame: number;
  /** Of the patch that it is; none of the same spot on another frame. */
  patch: number | undefined;
  x: number;
  y: number;
  w: number;
  h: number;
}

type Filter = { frame: string; role: string; kind: string };

/** Patches that a filter lets pass, as rows. */
export function spotsOf(
  patches: readonly Patch[],
  frames: readonly Frame[],
  { frame, role, kind }: Filter,
): Spot[] {
  const byId = new Map(frames.map((f) => [f.id, f]));
  return patches
    .filter(
      (p) =>
        (!frame || p.frame === Number(frame)) &&
        (!role || p.role === role) &&
        (!kind || (byId.get(p.frame)?.scene?.kinds ?? []).includes(kind as never)),
    )
    .map((p) => ({
      ...ofPatch(p),
      title: p.name,
      sub: [p.role, byId.get(p.frame)?.name].filter(Boolean).join(", "),
    }));
}

function ofPatch(p: Patch): Spot {
  const { x, y, w, h } = p;
  const { frame, role, name: title } = p;
  return { key: `p${p.id}`, title, sub: "", role, frame, patch: p.id, x, y, w, h };
}

/** One patch's spot on every frame that reaches so far, by ISO where it is known. */
export function sameSpot(patch: Patch, frames: readonly Frame[]): Spot[] {
  const iso = (f: Frame): number => f.picture.facts?.iso ?? Infinity;
  return [...frames]
    .filter(
      (f) =>
        f.picture.state === "ready" &&
        patch.x + patch.w <= f.picture.width &&
        patch.y + patch.h <= f.picture.height,
    )
    .sort((a, b) => iso(a) - iso(b) || 0)
    .map((f) => ({
      ...ofPatch(patch),
      key: `f${f.id}`,
      title: f.name,
      sub: f.picture.facts?.iso
        ? `ISO ${f.picture.facts?.iso.toLocaleString("en-GB")}`
        : patch.name,
      frame: f.id,
      patch: f.id === patch.frame ? patch.id : undefined,
    }));
}

/**
 * The chosen measure; or the type's own, or, where that was not to be had, the first with a number.
 */
export function measureOf(
  role: string,
  mine: readonly Reading[],
  measures: readonly Measure[],
  shown: string,
): Measure | undefined {
  const own = measures.find((m) => m.own_of.includes(role))?.id ?? "";
  const wanted = shown || own;
  const there = (id: string): boolean => mine.some((r) => r.measure === id && r.value !== null);
  const instead = measures.find((m) => m.stands_for === wanted)?.id ?? "";
  const first = there(instead) ? instead : mine.find((r) => r.value !== null)?.measure;
  const id = shown || there(wanted) ? wanted : (first ?? wanted);
  return measures.find((m) => m.id === id);
}

/** How far readings lie apart, in widths of their intervals. */
export function spread(readings: readonly Reading[]): number {
  const there = readings.flatMap((r) =>
    r.value === null || r.low === null || r.high === null
      ? []
      : [{ value: r.value, half: (r.high - r.low) / 2 }],
  );
  if (there.length < 2) return 0;
  const values = there.map((r) => r.value);
  const apart = Math.max(...values) - Math.min(...values);
  const half = there.reduce((sum, r) => sum + r.half, 0) / there.length;
  return apart / (half || 1e-9);
}

/** Mean rank of a contender over rows; nothing where it has none. */
export function meanRank(readings: readonly Reading[]): number | undefined {
  const ranks = readings.flatMap((r) => (r.rank === null ? [] : [r.rank]));
  return ranks.length ? ranks.reduce((a, b) => a + b, 0) / ranks.length : undefined;
}
