// What the pages of this area read.
import { queryOptions, useQuery } from "@tanstack/vue-query";

import { api, ask } from "@/api/client";
import { keys } from "@/api/keys";

export const sessionQuery = queryOptions({
  queryKey: keys.session,
  queryFn: () => ask(api.GET("/api/session")),
  staleTime: Infinity,
});

export const useSession = () => useQuery(sessionQuery);
