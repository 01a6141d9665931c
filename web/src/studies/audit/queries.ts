// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask } from "@/api/client";

/** One output's line-up and what examining it found: read again until it is there. */
export function useExamination(id: MaybeRefOrGetter<number | undefined>) {
  return useQuery({
    queryKey: computed(() => ["examination", toValue(id)]),
    queryFn: () =>
      ask(
        api.GET("/api/outputs/{output_id}/examination", {
          params: { path: { output_id: toValue(id) ?? 0 } },
        }),
      ),
    enabled: computed(() => toValue(id) !== undefined),
    refetchInterval: (query) => (query.state.data?.ready ? false : 2000),
  });
}
