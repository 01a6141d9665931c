// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";

export function useStepKinds() {
  return useQuery({
    queryKey: ["step-kinds"],
    queryFn: () => ask(api.GET("/api/degradations")),
    staleTime: Infinity,
  });
}
