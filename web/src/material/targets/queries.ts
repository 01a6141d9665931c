// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";

export function useTargets() {
  return useQuery({ queryKey: ["targets"], queryFn: () => ask(api.GET("/api/targets")) });
}

export function useFieldKinds() {
  return useQuery({
    queryKey: ["field-kinds"],
    queryFn: () => ask(api.GET("/api/targets/fields")),
    staleTime: Infinity,
  });
}
