// Removing what can be had back: it is gone from sight at once, and from the bench once the notice
// with
// Undo has passed, or the page is left.
import { reactive } from "vue";

import type { Key } from "@/api/keys";

import { useAct } from "./useAct";
import { useNotices } from "./useNotices";

const GRACE_MS = 8000;
const leaving = reactive(new Set<string>());
const waiting = new Map<string, () => void>();

/** Whether something is on its way out; the name is its kind and number. */
export const isLeaving = (name: string): boolean => leaving.has(name);

if (typeof window !== "undefined")
  window.addEventListener("pagehide", () => [...waiting.values()].forEach((go) => go()));

export function useRemoval(stale: () => readonly Key[]) {
  const { act } = useAct(stale);
  const notices = useNotices();

  /** `work` is told to outlive the page. */
  function remove(name: string, words: string, work: () => Promise<unknown>): void {
    leaving.add(name);
    const go = () => {
      clearTimeout(timer);
      if (!waiting.delete(name)) return;
      void act(work).finally(() => leaving.delete(name));
    };
    const timer = setTimeout(go, GRACE_MS);
    waiting.set(name, go);
    notices.tell(words, () => {
      clearTimeout(timer);
      waiting.delete(name);
      leaving.delete(name);
    });
  }

  return { remove };
}

/** Carry out at once what is on its way out; for what would come into conflict with it. */
export function removeNow(): void {
  [...waiting.values()].forEach((go) => go());
}
