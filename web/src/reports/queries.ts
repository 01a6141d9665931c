// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";

export function useReports() {
  return useQuery({ queryKey: ["reports"], queryFn: () => ask(api.GET("/api/reports")) });
}
