// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";

export function useBodies() {
  return useQuery({ queryKey: ["bodies"], queryFn: () => ask(api.GET("/api/bodies")) });
}
