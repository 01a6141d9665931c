// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

/** What is made and what is not: read often while something is being made. */
export function useCoverage(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "coverage")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/coverage", ofStudy(toValue(id)))),
    refetchInterval: (query) =>
      query.state.data?.cells.some((c) => c.state === "running" || c.state === "waiting")
        ? 1500
        : false,
  });
}

export function useCosts(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "costs")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/costs", ofStudy(toValue(id)))),
  });
}

export function useCellRuns(contender: Id, frame: Id) {
  const ids = computed(() => ({ contender_id: toValue(contender), frame_id: toValue(frame) }));
  return useQuery({
    queryKey: computed(() => ["runs", ids.value.contender_id, ids.value.frame_id]),
    queryFn: () =>
      ask(
        api.GET("/api/contenders/{contender_id}/outputs/{frame_id}/runs", {
          params: { path: ids.value },
        }),
      ),
  });
}

export function useHotFolders(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "hot-folders")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/hot-folders", ofStudy(toValue(id)))),
    refetchInterval: (query) => (query.state.data?.length ? 5000 : false),
  });
}
