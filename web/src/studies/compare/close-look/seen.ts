// Outputs as they are seen in a use: where they lie, and what is told of them.
import type { ViewingUse } from "@/api/types";
import type { Shape } from "@/api/client";
import { bytes } from "@/shared/lib/formats";
import type { Mapping } from "@/viewer/geometry";

export type AsSeen = Shape["AsSeenOut"];

/** Where a frame's pixels lie in what is seen of an output. */
export function seenMapping(lies: Mapping, seen: AsSeen): Mapping {
  const [left = 0, top = 0, across = 1, down = 1] = seen.part;
  const [kx, ky] = [seen.width / across, seen.height / down];
  return {
    sx: lies.sx * kx,
    sy: lies.sy * ky,
    dx: (lies.dx - left) * kx,
    dy: (lies.dy - top) * ky,
    bend: lies.bend ?? null,
  };
}

/** Of a pane's foot: how large it is, what it takes, how fine it is where it is looked at. */
export function seenWords(use: ViewingUse, seen: AsSeen): string {
  const takes = seen.size_bytes === null ? "" : `, ${bytes(seen.size_bytes)}`;
  const fine = `${use.pixels_per_degree.toFixed(0)} px a degree from ${use.distance_cm} cm`;
  return `${seen.width} × ${seen.height} px${takes}, ${fine}`;
}

/** The zoom at which what is seen is as large as in use, where its pixels lie so. */
export function lifeSize(use: ViewingUse, { sx }: Mapping, screenPpi: number): number {
  return sx * (screenPpi / use.ppi);
}
