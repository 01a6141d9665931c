// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask, askTagged } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

export function useReport(id: Id) {
  const key = computed(() => keys.part(toValue(id), "report"));
  return useQuery({
    queryKey: key,
    queryFn: () => askTagged(api.GET("/api/studies/{study_id}/report", ofStudy(toValue(id)))),
    // Somebody else may be writing it too.
    refetchInterval: 10_000,
  });
}

/** Earlier states of the report, read when they are asked for. */
export function useVersions(id: Id, wanted: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: computed(() => [...keys.part(toValue(id), "report"), "versions"]),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/report/versions", ofStudy(toValue(id)))),
    enabled: computed(() => toValue(wanted)),
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
