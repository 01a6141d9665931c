// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask } from "@/api/client";

export function useTools() {
  return useQuery({ queryKey: ["tools"], queryFn: () => ask(api.GET("/api/tools")) });
}

export function useMethods() {
  return useQuery({
    queryKey: ["methods"],
    queryFn: () => ask(api.GET("/api/methods")),
    staleTime: Infinity,
  });
}

export function usePrograms() {
  return useQuery({ queryKey: ["programs"], queryFn: () => ask(api.GET("/api/programs")) });
}

/** Tools side by side; all of the bench where none is chosen. */
export function useComparison(tools: MaybeRefOrGetter<readonly number[]>) {
  const told = computed(() => toValue(tools).join(","));
  return useQuery({
    queryKey: computed(() => ["comparison", told.value]),
    queryFn: () =>
      ask(api.GET("/api/tools/comparison", { params: { query: { tools: told.value } } })),
  });
}

export function useSavedTreatments() {
  return useQuery({ queryKey: ["treatments"], queryFn: () => ask(api.GET("/api/treatments")) });
}
