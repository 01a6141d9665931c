// Pure geometry of drawing patches, in frame pixels.

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

export type Handle = "nw" | "n" | "ne" | "e" | "se" | "s" | "sw" | "w";
export const HANDLES: readonly Handle[] = ["nw", "n", "ne", "e", "se", "s", "sw", "w"];
export const LEAST = 4;

/** The box between two corners, whole pixels, within the frame. */
export function between(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  width: number,
  height: number,
): Box {
  const clamp = (v: number, top: number): number => Math.round(Math.min(top, Math.max(0, v)));
  const [x0, x1] = [clamp(Math.min(ax, bx), width), clamp(Math.max(ax, bx), width)];
  const [y0, y1] = [clamp(Math.min(ay, by), height), clamp(Math.max(ay, by), height)];
  return { x: x0, y: y0, w: x1 - x0, h: y1 - y0 };
}

/** Moved by whole pixels, kept within the frame. */
export function moved(box: Box, dx: number, dy: number, width: number, height: number): Box {
  return {
    ...box,
    x: Math.min(Math.max(0, Math.round(box.x + dx)), Math.max(0, width - box.w)),
    y: Math.min(Math.max(0, Math.round(box.y + dy)), Math.max(0, height - box.h)),
  };
}

/** One handle dragged by (dx, dy); the opposite side stays. */
export function resized(
  box: Box,
  handle: Handle,
  dx: number,
  dy: number,
  width: number,
  height: number,
): Box {
  let { x, y } = box;
  let right = box.x + box.w;
  let bottom = box.y + box.h;
  if (handle.includes("w")) x = Math.min(Math.max(0, x + dx), right - LEAST);
  if (handle.includes("e")) right = Math.max(Math.min(width, right + dx), x + LEAST);
  if (handle.includes("n")) y = Math.min(Math.max(0, y + dy), bottom - LEAST);
  if (handle.includes("s")) bottom = Math.max(Math.min(height, bottom + dy), y + LEAST);
  return {
    x: Math.round(x),
    y: Math.round(y),
    w: Math.round(right) - Math.round(x),
    h: Math.round(bottom) - Math.round(y),
  };
}

/** Where a handle sits on its box. */
export function handleAt(box: Box, handle: Handle): { x: number; y: number } {
  const x = handle.includes("w") ? box.x : handle.includes("e") ? box.x + box.w : box.x + box.w / 2;
  const y = handle.includes("n") ? box.y : handle.includes("s") ? box.y + box.h : box.y + box.h / 2;
  return { x, y };
}

/** Those of some boxes that no patch of their role lies over already. */
export function untaken<T extends Box & { role: string }>(
  boxes: readonly T[],
  patches: readonly (Box & { role: string })[],
): T[] {
  const over = (a: Box, b: Box) =>
    a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;
  return boxes.filter((box) => !patches.some((p) => p.role === box.role && over(p, box)));
}
