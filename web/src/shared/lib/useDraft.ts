// A form's draft: it follows what was saved until something is typed into it; that is kept until it
// is saved, over a reload too.
import { computed, type ComputedRef, ref, type Ref, watch } from "vue";

import { keepUnsaved } from "./useVersioned";

export interface Draft<T> {
  draft: Ref<T>;
  /** The version that editing began with. */
  tag: Ref<string>;
  changed: ComputedRef<boolean>;
  /** Give up what was typed: what was saved is shown again. */
  follow: () => void;
}

export function useDraft<T extends object>(
  key: string,
  blank: () => T,
  saved: () => (Partial<T> & { version?: string }) | undefined,
): Draft<T> {
  const told = computed(() => {
    const empty = blank();
    const from = saved();
    const fields = Object.keys(empty) as (keyof T)[];
    return JSON.stringify(Object.fromEntries(fields.map((f) => [f, from?.[f] ?? empty[f]])));
  });
  const base = ref(told.value);
  const draft = ref(JSON.parse(told.value)) as Ref<T>;
  const tag = ref(saved()?.version ?? "");
  const changed = computed(() => JSON.stringify(draft.value) !== base.value);
  function follow(): void {
    base.value = told.value;
    draft.value = JSON.parse(told.value) as T;
    tag.value = saved()?.version ?? "";
  }
  watch(told, (text) => {
    // One's own text comes back from the server once it is saved.
    if (!changed.value || text === JSON.stringify(draft.value)) follow();
  });
  keepUnsaved(key, draft, changed, tag);
  return { draft, tag, changed, follow };
}
