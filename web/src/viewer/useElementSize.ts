// An element's size in CSS pixels, kept up to date.
import { useElementSize as observed } from "@vueuse/core";
import { computed, type ComputedRef, type Ref } from "vue";

import type { Size } from "./geometry";

export function useElementSize(element: Readonly<Ref<HTMLElement | null>>): ComputedRef<Size> {
  const { width, height } = observed(element);
  return computed(() => ({ width: width.value, height: height.value }));
}
