// A small choice that the browser remembers: surround, magnification of the wall.
import { useLocalStorage } from "@vueuse/core";
import type { Ref } from "vue";

const kept = new Map<string, Ref<string>>();

export function usePreference<T extends string>(name: string, initial: T): Ref<T> {
  let value = kept.get(name);
  if (!value) kept.set(name, (value = useLocalStorage<string>(`glenhail.${name}`, initial)));
  return value as Ref<T>;
}
