// What the series page reads.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { type Id, keys, ofStudy } from "@/api/keys";
import { useAct } from "@/shared/lib/useAct";

export function useSeries(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "series")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/series", ofStudy(toValue(id)))),
    refetchInterval: (query) => (query.state.data?.state === "waiting" ? 1500 : false),
  });
}

export function useSeriesChanges(id: Id) {
  const { act, busy } = useAct(() => [keys.part(toValue(id), "series"), keys.queue]);
  return {
    busy,
    meter: (told: Shape["MeteredSpotIn"]) =>
      act(() =>
        ask(
          api.PUT("/api/studies/{study_id}/series/luminance", {
            ...ofStudy(toValue(id)),
            body: told,
          }),
        ).then(() => true),
      ),
    forgetMeter: () =>
      act(() => ask(api.DELETE("/api/studies/{study_id}/series/luminance", ofStudy(toValue(id))))),
    measure: () => act(() => ask(api.POST("/api/studies/{study_id}/series", ofStudy(toValue(id))))),
  };
}
