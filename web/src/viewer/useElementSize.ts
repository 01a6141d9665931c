// An element's size in CSS pixels, kept up to date.
import { onBeforeUnmount, onMounted, type Ref, ref } from "vue";

import type { Size } from "./geometry";

export function useElementSize(element: Readonly<Ref<HTMLElement | null>>): Ref<Size> {
  const size = ref<Size>({ width: 0, height: 0 });
  const observer = new ResizeObserver(() => {
    const e = element.value;
    if (e) size.value = { width: e.clientWidth, height: e.clientHeight };
  });
  onMounted(() => element.value && observer.observe(element.value));
  onBeforeUnmount(() => observer.disconnect());
  return size;
}
