// The uses that the bench chooses from.
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";

import { api, ask } from "@/api/client";
import { keys } from "@/api/keys";

export function useUses() {
  const { data } = useQuery({ queryKey: keys.uses, queryFn: () => ask(api.GET("/api/uses")) });
  return computed(() => data.value ?? []);
}
