// Do something at the server, then read again what that makes stale; say so if it fails.
import { useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";

import { Problem } from "@/api/client";
import type { Key } from "@/api/keys";

import { useNotices } from "./useNotices";

export interface Done<T> {
  /** Said when it was done. */
  done?: string | ((result: T) => string);
  /** Takes it back, for as long as the notice stands. */
  undo?: (result: T) => Promise<unknown>;
}

/** `stale` are the keys below which what is shown is out of date afterwards. */
export function useAct(stale: () => readonly Key[]) {
  const busy = ref(false);
  const notices = useNotices();
  const client = useQueryClient();
  const refresh = () =>
    Promise.all(stale().map((queryKey) => client.invalidateQueries({ queryKey })));

  async function act<T>(
    work: () => Promise<T>,
    after: Done<T> | string = {},
  ): Promise<T | undefined> {
    const { done, undo } = typeof after === "string" ? { done: after } : after;
    busy.value = true;
    try {
      const result = await work();
      await refresh();
      const words = typeof done === "function" ? done(result) : done;
      if (words) notices.tell(words, undo && (() => void act(() => undo(result))));
      return result;
    } catch (error) {
      notices.warn(error);
      // What somebody else made of it is shown at once.
      if (error instanceof Problem && error.status === 412) await refresh();
      return undefined;
    } finally {
      busy.value = false;
    }
  }

  return { busy, act };
}
