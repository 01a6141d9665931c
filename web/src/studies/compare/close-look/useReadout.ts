// Samples of every pane at the place of the frame that the pointer rests on.
import { refDebounced } from "@vueuse/core";
import { computed, reactive, ref, shallowRef } from "vue";

import { deepAddress, squareAt } from "@/viewer/depth";
import { IDENTITY, mappingAt } from "@/viewer/geometry";
import { steps } from "@/viewer/tiles";
import type { Pane } from "./useLook";
import { type Sample, sampleOf, SIDES, type Unit } from "./readout";

export interface Spot {
  x: number;
  y: number;
}

const REST = 80; // ms

/** The full-size square of an output at a place of its frame. */
export function sampleAt(
  pane: Pane | undefined,
  spot: Spot,
  side: number,
  arrived: () => void,
): Sample | undefined {
  const output = pane?.output;
  const picture = output?.state === "ready" ? output.picture : null;
  if (!picture) return undefined;
  const at = mappingAt(output?.lineup ?? IDENTITY, spot.x, spot.y);
  const square = squareAt(picture, at.sx * spot.x + at.dx, at.sy * spot.y + at.dy, side, (c, r) =>
    steps(deepAddress(picture.id, 0, c, r), arrived),
  );
  return square && sampleOf(square);
}

export function useReadout() {
  const spot = shallowRef<Spot>();
  const rested = refDebounced(spot, REST);
  const come = ref(0);
  const asked = reactive({ side: 5 as (typeof SIDES)[number], unit: "8-bit levels" as Unit });

  /** Reactive: told anew as the pointer rests, and as tiles come. */
  function sample(pane: Pane | undefined): Sample | undefined {
    void come.value;
    const at = rested.value;
    return at && sampleAt(pane, at, asked.side, () => come.value++);
  }

  return { spot, rested: computed(() => rested.value), asked, sample };
}

export type Readout = ReturnType<typeof useReadout>;
