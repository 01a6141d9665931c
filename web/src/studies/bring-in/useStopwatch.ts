// A stopwatch that goes through the parts of a run: each press ends one part and begins the next.
import { useIntervalFn } from "@vueuse/core";
import { computed, ref } from "vue";

const TICK = 100; // ms between two looks at the clock

/** `ended` hears each part's seconds as it ends; `now` is a clock in ms. */
export function useStopwatch<Part extends string>(
  parts: readonly Part[],
  ended: (part: Part, seconds: number) => void,
  now: () => number = () => performance.now(),
) {
  const at = ref(-1);
  const begun = ref(0);
  const clock = ref(0);
  const { pause, resume } = useIntervalFn(() => (clock.value = now()), TICK, { immediate: false });
  const running = computed(() => parts[at.value]);
  const seconds = computed(() => Math.max(0, (clock.value - begun.value) / 1000));

  /** Begins, or goes on to the next part; stops after the last. */
  function press(): void {
    const moment = now();
    const part = running.value;
    if (part !== undefined) ended(part, (moment - begun.value) / 1000);
    at.value += 1;
    begun.value = clock.value = moment;
    if (running.value === undefined) stop();
    else resume();
  }

  /** Stops without telling of the part that ran. */
  function stop(): void {
    at.value = -1;
    pause();
  }

  return { running, seconds, press, stop };
}
