// A small choice the browser remembers: surround, wall magnification.
import { ref, type Ref, watch } from "vue";

const kept = new Map<string, Ref<string>>();

export function usePreference<T extends string>(name: string, initial: T): Ref<T> {
  const key = `glenhail.${name}`;
  let value = kept.get(key);
  if (!value) {
    value = ref<string>(localStorage.getItem(key) ?? initial);
    kept.set(key, value);
    watch(value, (now) => localStorage.setItem(key, now));
  }
  return value as Ref<T>;
}
