// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";
import { keys } from "@/api/keys";

export function useStudies() {
  return useQuery({ queryKey: keys.studies, queryFn: () => ask(api.GET("/api/studies")) });
}
