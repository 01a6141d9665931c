// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

export function useBodiesAtHand(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "bodies-at-hand")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/bodies", ofStudy(toValue(id)))),
  });
}

/** Scenes that bodies shot in raw, each with what of it is missing. */
export function useSeriesScenes(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "series-scenes")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/series/scenes", ofStudy(toValue(id)))),
  });
}

/** What differs between two contenders' treatments. */
export function useDifferences(left: Id, right: Id) {
  return useQuery({
    queryKey: computed(() => ["differences", toValue(left), toValue(right)]),
    queryFn: () =>
      ask(
        api.GET("/api/contenders/{contender_id}/against/{other_id}", {
          params: { path: { contender_id: toValue(left), other_id: toValue(right) } },
        }),
      ),
    enabled: computed(
      () => toValue(left) !== toValue(right) && toValue(left) > 0 && toValue(right) > 0,
    ),
  });
}

/** The plan by which a study was begun, if it was. */
export function usePlan(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "plan")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/plan", ofStudy(toValue(id)))),
  });
}
