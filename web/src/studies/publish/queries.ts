// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask, askTagged } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

export function useReport(id: Id) {
  const key = computed(() => keys.part(toValue(id), "report"));
  return useQuery({
    queryKey: key,
    queryFn: () => askTagged(api.GET("/api/studies/{study_id}/report", ofStudy(toValue(id)))),
  });
}

export function useCorrections(id: Id) {
  const key = computed(() => keys.part(toValue(id), "corrections"));
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}/corrections", ofStudy(toValue(id)))),
  });
}

export function useRetests(id: Id) {
  const key = computed(() => keys.part(toValue(id), "retests"));
  return useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/studies/{study_id}/retests", ofStudy(toValue(id)))),
  });
}
