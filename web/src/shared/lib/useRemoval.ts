// Removing what can be had back: it is gone from sight at once, and from the bench once the notice
// with Undo has passed, or the page is left. A page that is torn down may never send its last
// request, so what waits is kept for the page that follows in the same tab.
import { reactive } from "vue";

import { deleteAt, Problem } from "@/api/client";
import type { Key } from "@/api/keys";
import { AWAY } from "@/api/patient";

import { useAct } from "./useAct";
import { useNotices } from "./useNotices";

const GRACE_MS = 8000;
const KEPT = "glenhail.removals";
const DONE = 204;
const SIGNED_OUT = 401;

const leaving = reactive(new Set<string>());
const waiting = new Map<string, () => void>();

/** Whether something is on its way out; the name is its kind and number. */
export const isLeaving = (name: string): boolean => leaving.has(name);

if (typeof window !== "undefined") window.addEventListener("pagehide", removeNow);

export function useRemoval(stale: () => readonly Key[]) {
  const { act } = useAct(stale);
  const notices = useNotices();

  /** Delete what stands at `address` of the server, in a while. */
  function remove(name: string, words: string, address: string): void {
    leaving.add(name);
    keep(name, address);
    const forget = () => {
      leaving.delete(name);
      drop(name);
    };
    const go = () => {
      clearTimeout(timer);
      if (!waiting.delete(name)) return;
      void act(() => deleteAt(address)).finally(forget);
    };
    const timer = setTimeout(go, GRACE_MS);
    waiting.set(name, go);
    notices.tell(words, () => {
      clearTimeout(timer);
      waiting.delete(name);
      forget();
    });
  }

  return { remove };
}

/** Carry out at once what is on its way out; for what would come into conflict with it. */
export function removeNow(): void {
  [...waiting.values()].forEach((go) => go());
}

/** Carry out what the page before this one had to leave undone; called once, before reading. */
export async function finishRemovals(): Promise<void> {
  await Promise.all(
    Object.entries(kept()).map(async ([name, address]) => {
      leaving.add(name);
      const answered = await deleteAt(address).then(
        () => DONE,
        (problem: Problem) => problem.status,
      );
      // Where the server is away or somebody is signed out, the next page tries again.
      if (![...AWAY, SIGNED_OUT].includes(answered)) drop(name);
      leaving.delete(name);
    }),
  );
}

const kept = (): Record<string, string> => {
  try {
    return JSON.parse(sessionStorage.getItem(KEPT) ?? "{}") as Record<string, string>;
  } catch {
    return {};
  }
};

function keep(name: string, address: string): void {
  sessionStorage.setItem(KEPT, JSON.stringify({ ...kept(), [name]: address }));
}

function drop(name: string): void {
  const others = Object.entries(kept()).filter(([other]) => other !== name);
  sessionStorage.setItem(KEPT, JSON.stringify(Object.fromEntries(others)));
}
