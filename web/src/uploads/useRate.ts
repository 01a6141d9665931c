// How fast files arrive, and how long what is left will take: over the last seconds, not since the
// start.
import { useIntervalFn } from "@vueuse/core";
import { computed, ref } from "vue";

import { sending } from "./store";

const EVERY_MS = 1000;
const OVER = 8; // seconds that the rate is taken over

export function useRate() {
  const seen = ref<number[]>([]);
  const arrived = computed(() => sending.value.reduce((sum, i) => sum + i.arrived, 0));
  const left = computed(() =>
    sending.value
      .filter((i) => ["waiting", "sending", "broken"].includes(i.state))
      .reduce((sum, i) => sum + i.size - i.arrived, 0),
  );
  useIntervalFn(() => {
    seen.value = left.value ? [...seen.value, arrived.value].slice(-OVER - 1) : [];
  }, EVERY_MS);

  const perSecond = computed(() => {
    const [first, last] = [seen.value[0], seen.value.at(-1)];
    const spans = seen.value.length - 1;
    return first === undefined || last === undefined || spans < 1
      ? 0
      : Math.max(0, (last - first) / spans);
  });
  const secondsLeft = computed(() => (perSecond.value > 0 ? left.value / perSecond.value : null));
  return { perSecond, secondsLeft };
}
