// A text that somebody else may be editing too: the later one to save sees both and chooses.
import { useQueryClient } from "@tanstack/vue-query";
import { isReadonly, type Ref, ref, watch } from "vue";

import { Problem, type Shape } from "@/api/client";

export function useVersioned<T>(tag: Ref<string> = ref("")) {
  const theirs = ref<T | null>(null);

  /** The version that editing began with, to be sent with the change. */
  const headers = (): Record<string, string> => (tag.value ? { "If-Match": tag.value } : {});

  /** Save; what somebody else wrote meanwhile is kept to be shown, and the refusal passed on. */
  async function guarded<R>(work: () => Promise<R>): Promise<R> {
    try {
      const result = await work();
      theirs.value = null;
      return result;
    } catch (error) {
      if (error instanceof Problem && error.status === 412 && error.now) {
        theirs.value = error.now.current as T;
        tag.value = error.now.tag;
      }
      throw error;
    }
  }

  return { tag, theirs, headers, guarded };
}

/**
 * Keep what is being written in the browser until it is saved, for the person who writes it: it
 * survives leaving the page, signing in
 * again and a reload.
 * Call it before what was saved is taken over into `text`.
 */
export function keepUnsaved<T>(
  key: string,
  text: Ref<T>,
  changed: Ref<boolean> | Readonly<Ref<boolean>>,
  tag: Ref<string>,
): void {
  const writer = useQueryClient().getQueryData<Shape["SessionOut"]>(["session"])?.user ?? "";
  const name = `glenhail-unsaved-${writer}-${key}`;
  const kept = localStorage.getItem(name);
  if (kept) {
    const told = JSON.parse(kept) as { text: T; tag: string };
    text.value = told.text;
    tag.value = told.tag;
    if (!isReadonly(changed)) (changed as Ref<boolean>).value = true;
  }
  watch(
    [text, changed, tag],
    () => {
      if (changed.value)
        localStorage.setItem(name, JSON.stringify({ text: text.value, tag: tag.value }));
      else localStorage.removeItem(name);
    },
    { deep: true },
  );
}
