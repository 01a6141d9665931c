// What the pages of this area read.
import { queryOptions, useQuery } from "@tanstack/vue-query";

import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { type Id } from "@/api/keys";

/** A body's sensor by its raw files: read often while that is being measured. */
export const measuredQuery = (id: number) =>
  queryOptions({
    queryKey: ["sensor", id],
    queryFn: () =>
      ask(api.GET("/api/bodies/{body_id}/measured", { params: { path: { body_id: id } } })),
    refetchInterval: (query) => (query.state.data?.state === "waiting" ? 1500 : false),
  });

export const useMeasured = (id: Id) => useQuery(computed(() => measuredQuery(toValue(id))));

export function useBodies() {
  return useQuery({ queryKey: ["bodies"], queryFn: () => ask(api.GET("/api/bodies")) });
}
