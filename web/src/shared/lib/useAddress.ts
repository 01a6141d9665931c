// A choice that the address names, so that a link opens the same view.
import { useRouteQuery } from "@vueuse/router";
import { computed, type WritableComputedRef } from "vue";

export function useAddress() {
  function inAddress(name: string, initial: () => string = () => ""): WritableComputedRef<string> {
    const told = useRouteQuery<string | undefined>(name);
    return computed({
      get: () => String(told.value ?? initial()),
      set: (value) => (told.value = value || undefined),
    });
  }

  return { inAddress };
}
