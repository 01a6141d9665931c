// A study's sittings, as several of its stages show them.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

const AGAIN = 1500; // ms, while one is being prepared

export const sittingsKey = (study: number) => keys.part(study, "sittings");

export function useSittings(id: Id) {
  return useQuery({
    queryKey: computed(() => sittingsKey(toValue(id))),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/sittings", ofStudy(toValue(id)))),
    refetchInterval: (query) =>
      query.state.data?.some((s) => s.state === "preparing") ? AGAIN : false,
  });
}
