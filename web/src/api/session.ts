// What the pages of this area read.
import { useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";
import { keys } from "@/api/keys";

export function useSession() {
  return useQuery({
    queryKey: keys.session,
    queryFn: () => ask(api.GET("/api/session")),
    staleTime: Infinity,
  });
}
