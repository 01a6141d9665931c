// Brightness along the line, of every pane, from full depth.
import { computed, ref } from "vue";

import type { ChartCurve } from "@/charts/CurveChart.vue";
import { colourOf } from "@/shared/lib/letters";
import { deepAddress } from "@/viewer/depth";
import { IDENTITY } from "@/viewer/geometry";
import { type Line, placesOf, profileOf } from "@/viewer/profile";
import { steps } from "@/viewer/tiles";

import { brightness, type Unit } from "./readout";
import type { Pane } from "./useLook";

export function useProfiles(panes: () => readonly Pane[], line: () => Line, unit: () => Unit) {
  const come = ref(0);
  const shown = computed(() => {
    const seen = new Map(panes().map((p) => [p.contender.letter, p]));
    return [...seen.values()].flatMap(({ contender, output }) =>
      output?.state === "ready" && output.picture
        ? [
            {
              letter: contender.letter,
              picture: output.picture,
              lies: output.lineup ?? IDENTITY,
            },
          ]
        : [],
    );
  });
  const places = computed(() =>
    placesOf(line(), Math.max(1, ...shown.value.map((s) => s.lies.sx))),
  );
  const curves = computed<ChartCurve[]>(() => {
    void come.value;
    return shown.value.flatMap(({ letter, picture, lies }) => {
      const found = profileOf(picture, lies, line(), places.value, (column, row) =>
        steps(deepAddress(picture.id, 0, column, row), () => come.value++),
      );
      const told = (found ?? []).flatMap((value, i) =>
        value ? [[places.value[i] ?? 0, brightness(value, unit())] as const] : [],
      );
      const [x, y] = [told.map((t) => t[0]), told.map((t) => t[1])];
      return told.length ? [{ name: letter, x, y, colour: colourOf(letter) }] : [];
    });
  });
  const waiting = computed(() => curves.value.length < shown.value.length);
  return { curves, waiting };
}
