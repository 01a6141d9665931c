// A session that ends while somebody works: they sign in over the page, and nothing on it is lost.
import { useQueryClient } from "@tanstack/vue-query";
import { onBeforeUnmount, ref, type Ref } from "vue";

import { Problem } from "@/api/client";
import { keys } from "@/api/keys";

const SIGNED_OUT = 401;

export function useExpiry(signedIn: Ref<boolean>) {
  const client = useQueryClient();
  const expired = ref(false);
  const look = (error: unknown) => {
    if (signedIn.value && error instanceof Problem && error.status === SIGNED_OUT)
      expired.value = true;
  };
  const stops = [
    client.getQueryCache().subscribe((e) => {
      if (e.type === "updated" && e.action.type === "error") look(e.action.error);
    }),
    client.getMutationCache().subscribe((e) => {
      if (e.type === "updated" && e.action.type === "error") look(e.action.error);
    }),
  ];
  onBeforeUnmount(() => stops.forEach((stop) => stop()));

  /** Signed in again: read what is shown anew. */
  async function goOn(): Promise<void> {
    expired.value = false;
    await client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== keys.session[0] });
  }

  return { expired, goOn };
}
