// A degradation being put together: steps, seed, and what it would do to a place of the frame.
import { computed, ref } from "vue";

import type { StepKind } from "@/api/types";
import { useServerPicture } from "@/shared/lib/useServerPicture";
import { useSteps } from "@/shared/lib/useSteps";

export interface Sweep {
  step: number;
  parameter: string;
  values: number[];
}

export function useRecipe(frame: () => number, kinds: () => readonly StepKind[]) {
  const { steps, add, move, plain } = useSteps(kinds);
  const seed = ref(1);
  const spot = ref({ x: 0, y: 0 });
  const recipe = computed(() => ({ seed: seed.value, steps: plain() }));
  const { shown, problem } = useServerPicture(() =>
    steps.value.length
      ? {
          url: `/api/frames/${frame()}/degradations/preview`,
          body: { recipe: recipe.value, ...spot.value },
        }
      : undefined,
  );
  return { steps, seed, spot, recipe, shown, problem, add, move };
}
