// What is shown only while a key, or a button, is held.
import { useEventListener } from "@vueuse/core";
import { ref } from "vue";

import type { Which } from "./stage";

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;

export function useHeld(keys: Record<string, () => Which | undefined>) {
  const held = ref<Which>();
  const hold = (which: Which | undefined): void => void (held.value = which);
  const release = (): void => hold(undefined);

  useEventListener(window, "keydown", (event: KeyboardEvent) => {
    const shown = keys[event.key.toLowerCase()];
    if (!shown || typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
    // A space would press the button that has the focus.
    event.preventDefault();
    if (!event.repeat) hold(shown());
  });
  useEventListener(window, "keyup", (event: KeyboardEvent) => {
    if (!keys[event.key.toLowerCase()]) return;
    event.preventDefault();
    release();
  });
  useEventListener(window, "blur", release);
  return { held, hold, release };
}
