// How many device pixels an inch of this screen has, told once by whoever sits before it.
import { computed } from "vue";

import { usePreference } from "@/shared/lib/usePreference";

/** ISO/IEC 7810, ID-1: what bank cards and licences are as wide and high as, mm. */
export const CARD = { width: 85.6, height: 53.98 } as const;
export const MM_PER_INCH = 25.4;
const PLAUSIBLE = [40, 1000] as const;

/** Pixels an inch, from how many a card is wide. */
export const ppiOfCard = (pixels: number): number => (pixels / CARD.width) * MM_PER_INCH;

export function useScreen() {
  const kept = usePreference<string>("screen-ppi", "");
  const ppi = computed({
    get: () => {
      const told = Number(kept.value);
      return told >= PLAUSIBLE[0] && told <= PLAUSIBLE[1] ? told : undefined;
    },
    set: (to) => (kept.value = to === undefined ? "" : to.toFixed(1)),
  });
  return { ppi };
}
