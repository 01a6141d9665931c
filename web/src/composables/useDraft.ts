// A form's draft: it follows what was saved, but what is saved beside it does not undo what is being typed into it.
import { computed, ref, type Ref, watch } from "vue";

export function useDraft<T extends object>(blank: () => T, saved: () => Partial<T> | undefined): Ref<T> {
  const told = computed(() => {
    const empty = blank();
    const from = saved();
    const fields = Object.keys(empty) as (keyof T)[];
    return JSON.stringify(Object.fromEntries(fields.map((f) => [f, from?.[f] ?? empty[f]])));
  });
  const draft = ref(JSON.parse(told.value) as T) as Ref<T>;
  watch(told, (text) => (draft.value = JSON.parse(text) as T));
  return draft;
}
