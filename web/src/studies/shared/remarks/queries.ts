// What was remarked in a study.
import { useQuery } from "@tanstack/vue-query";
import { computed, toValue } from "vue";

import { api, ask } from "@/api/client";
import { type Id, keys, ofStudy } from "@/api/keys";
import { isLeaving } from "@/shared/lib/useRemoval";

/** By their numbers, without those on their way out. */
export function useRemarks(id: Id) {
  const { data } = useQuery({
    queryKey: computed(() => keys.part(toValue(id), "remarks")),
    queryFn: () => ask(api.GET("/api/studies/{study_id}/remarks", ofStudy(toValue(id)))),
  });
  return computed(() => (data.value ?? []).filter((r) => !isLeaving(`remark ${r.id}`)));
}
