// A choice that the address names, so that a link opens the same view.
import { computed, type WritableComputedRef } from "vue";
import { useRoute, useRouter } from "vue-router";

export function useAddress() {
  const route = useRoute();
  const router = useRouter();

  function inAddress(name: string, initial: () => string = () => ""): WritableComputedRef<string> {
    return computed({
      get: () => String(route.query[name] ?? initial()),
      set: (value) =>
        void router.replace({ query: { ...route.query, [name]: value || undefined } }),
    });
  }

  return { inAddress };
}
