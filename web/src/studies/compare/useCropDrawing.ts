// The part of an output that a crop shows, once the room for it is known.
import { computed, type Ref } from "vue";

import type { Output } from "@/api/types";
import { IDENTITY, type View } from "@/viewer/geometry";
import { type Light, lightLayer } from "@/viewer/light";
import { partOf } from "@/viewer/parts";
import { useElementSize } from "@/viewer/useElementSize";

interface Crop {
  output: Output | undefined;
  view: View;
  light: Light;
}

export function useCropDrawing(element: Readonly<Ref<HTMLElement | null>>, crop: () => Crop) {
  const room = useElementSize(element);
  return computed(() => {
    const { output, view, light } = crop();
    const ratio = window.devicePixelRatio || 1;
    const canvas = {
      width: Math.round(room.value.width * ratio),
      height: Math.round(room.value.height * ratio),
    };
    if (!output?.picture || !canvas.width) return undefined;
    const whole = {
      picture: output.picture,
      mapping: output.lineup ?? IDENTITY,
      view,
      layer: lightLayer(output.picture.id, light, output.tone),
    };
    return partOf(whole, canvas) ?? whole;
  });
}
