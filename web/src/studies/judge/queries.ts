// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask, askTagged } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

export function useVerdicts(id: Id) {
  const key = computed(() => keys.part(toValue(id), "verdicts"));
  return useQuery({
    queryKey: key,
    queryFn: () => askTagged(api.GET("/api/studies/{study_id}/verdicts", ofStudy(toValue(id)))),
  });
}

/** What verdicts can rest on, and what those that are saved are asked. */
export function useEvidence(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "evidence")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/evidence", ofStudy(toValue(id)))),
  });
}
