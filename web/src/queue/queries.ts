// The queue, with what ended since it was asked for last.
import { useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import { api, ask } from "@/api/client";
import { keys } from "@/api/keys";

const BUSY_MS = 1000;
const IDLE_MS = 5000;

/** Often while there is work, seldom otherwise. */
export function useQueue(enabled: MaybeRefOrGetter<boolean>) {
  let since: string | undefined;
  return useQuery({
    queryKey: keys.queue,
    queryFn: async () => {
      const told = await ask(api.GET("/api/queue", { params: { query: { since } } }));
      since = told.now;
      return told;
    },
    enabled: computed(() => toValue(enabled)),
    refetchInterval: (query) => (query.state.data?.active ? BUSY_MS : IDLE_MS),
  });
}
