// What the pages of this area read.
import { queryOptions, useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys, type Id, ofStudy } from "@/api/keys";

export const studyQuery = (id: number) =>
  queryOptions({
    queryKey: keys.page(id),
    queryFn: () => ask(api.GET("/api/studies/{study_id}", ofStudy(id))),
  });

export const useStudy = (id: Id) => useQuery(computed(() => studyQuery(toValue(id))));

/** What is not like for like: read often until every output was examined. */
export function useAudit(id: Id) {
  return useQuery({
    queryKey: computed(() => keys.part(toValue(id), "audit")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/audit", ofStudy(toValue(id)))),
    refetchInterval: (query) => {
      const audit = query.state.data;
      return audit && audit.examined < audit.wanted ? 2500 : false;
    },
  });
}

/** All that stands behind one number. */
export function useReading(id: Id) {
  return useQuery({
    queryKey: computed(() => ["reading", toValue(id)]),
    queryFn: () =>
      ask(api.GET("/api/readings/{reading_id}", { params: { path: { reading_id: toValue(id) } } })),
  });
}
