// A target sheet being put together, with a picture of what it would be.
import { computed, ref } from "vue";

import type { StepKind } from "@/api/types";
import { useServerPicture } from "@/shared/lib/useServerPicture";
import { useSteps } from "@/shared/lib/useSteps";

export function useSheet(kinds: () => readonly StepKind[]) {
  const width = ref(2400);
  const height = ref(1600);
  const blur = ref(0.6);
  const { steps: fields, add, move, plain } = useSteps(kinds);
  const sheet = computed(() => ({
    width: width.value,
    height: height.value,
    blur: blur.value,
    fields: plain(),
  }));
  const { shown, problem } = useServerPicture(() =>
    fields.value.length ? { url: "/api/targets/preview", body: { sheet: sheet.value } } : undefined,
  );
  return { width, height, blur, fields, sheet, shown, problem, add, move };
}
