// What is on its way to one place, and sending there.
import { computed, type MaybeRefOrGetter, toValue } from "vue";

import type { Delivery } from "./keep";
import { drop, send, sending } from "./store";

/**
 * For a delivery that a component is about; `sent` are the files on their way to just that place.
 */
export function useSending(delivery: MaybeRefOrGetter<Delivery>) {
  const sent = computed(() => {
    const place = placeOf(toValue(delivery));
    return sending.value.filter((i) => i.state !== "done" && placeOf(i.delivery) === place);
  });
  return { sent, drop, send: (files: File[]) => send(toValue(delivery), files) };
}

function placeOf(d: Delivery): string {
  return [d.kind, d.study, d.frame, d.contender, d.folder].join();
}
