// Whether the server, or its database, is away for a moment: calls are tried again until it is
// back.
import { useQueryClient } from "@tanstack/vue-query";
import { onBeforeUnmount, ref } from "vue";

import { Problem } from "@/api/client";
import { AWAY } from "@/api/patient";

const LONGEST = 8000; // ms between two tries
const TRIES = 60;

export const isAway = (error: unknown): boolean =>
  error instanceof Problem && AWAY.includes(error.status);

/**
 * For the query client: what is away is waited for, what is refused is not asked again and again.
 */
export const patience = {
  retry: (count: number, error: unknown): boolean => count < (isAway(error) ? TRIES : 1),
  retryDelay: (count: number): number => Math.min(1000 * 2 ** count, LONGEST),
};

export function useAway() {
  const away = ref(false);
  const stop = useQueryClient()
    .getQueryCache()
    .subscribe((event) => {
      if (event.type !== "updated") return;
      if (event.action.type === "failed" && isAway(event.action.error)) away.value = true;
      if (event.action.type === "success") away.value = false;
    });
  onBeforeUnmount(stop);
  return { away };
}
