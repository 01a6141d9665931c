// Drawing, moving and resizing with the pointer: one drag at a time, told when it ends.
import { ref } from "vue";

import { between, type Box, type Handle, LEAST, moved, resized } from "./patches";

export interface Drag {
  kind: "draw" | "move" | Handle;
  id: number | null;
  from: { x: number; y: number };
  start: Box;
  box: Box;
}

interface Bounds {
  width: number;
  height: number;
}

export function usePatchDrag(bounds: () => Bounds, done: (drag: Drag) => void) {
  const drag = ref<Drag>();

  function begin(
    kind: Drag["kind"],
    id: number | null,
    at: { x: number; y: number },
    start: Box,
  ): void {
    drag.value = { kind, id, from: at, start, box: start };
  }

  function to(at: { x: number; y: number }): void {
    const d = drag.value;
    if (!d) return;
    const { width, height } = bounds();
    const [dx, dy] = [at.x - d.from.x, at.y - d.from.y];
    if (d.kind === "draw") d.box = between(d.from.x, d.from.y, at.x, at.y, width, height);
    else if (d.kind === "move") d.box = moved(d.start, dx, dy, width, height);
    else d.box = resized(d.start, d.kind, dx, dy, width, height);
  }

  function end(): void {
    const d = drag.value;
    drag.value = undefined;
    if (!d) return;
    const same = d.kind !== "draw" && JSON.stringify(d.box) === JSON.stringify(d.start);
    if (!same && d.box.w >= LEAST && d.box.h >= LEAST) done(d);
  }

  return { drag, begin, to, end };
}
