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

/** Earlier states of the report, and whether somebody else is writing it too. */
export function useVersions(id: Id) {
  return useQuery({
    queryKey: computed(() => [...keys.part(toValue(id), "report"), "versions"]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/report/versions", ofStudy(toValue(id)))),
    refetchInterval: 10_000,
  });
}

export const readVersion = (study: number, version: number) =>
  ask(
    api.GET("/api/studies/{study_id}/report/versions/{version_id}", {
      params: { path: { study_id: study, version_id: version } },
    }),
  );

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

/** What editors say about the report; somebody else's come by themselves. */
export function useComments(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "comments")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/report/comments", ofStudy(toValue(id)))),
    refetchInterval: 10_000,
  });
}
