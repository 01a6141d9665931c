// What a print of so many pixels takes.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask } from "@/api/client";

export interface PrintWanted {
  width: number;
  height: number;
  ppi: number;
  longer_cm: number;
  distance_cm: number;
}

export function usePrint(wanted: MaybeRefOrGetter<PrintWanted>) {
  return useQuery({
    queryKey: computed(() => ["print", toValue(wanted)]),
    queryFn: () => ask(api.GET("/api/prints", { params: { query: toValue(wanted) } })),
    placeholderData: (before) => before,
  });
}
