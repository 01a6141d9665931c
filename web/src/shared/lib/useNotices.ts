// Lines at the foot of the window that say what happened, one after the other.
import { inject, type InjectionKey, provide, ref, type Ref } from "vue";

export interface Notice {
  text: string;
  color: "error" | "secondary";
  timeout: number;
  undo?: () => void;
}

export interface Notices {
  waiting: Ref<Notice[]>;
  tell: (text: string, undo?: () => void) => void;
  warn: (error: unknown) => void;
}

const TOLD_MS = 4000;
const UNDO_MS = 8000; // as long as what is removed can be had back (useRemoval)
const BAD_MS = 12_000;
const KEY: InjectionKey<Notices> = Symbol("notices");

export function provideNotices(): Notices {
  const waiting = ref<Notice[]>([]);
  const add = (notice: Notice) => (waiting.value = [...waiting.value, notice]);
  const notices: Notices = {
    waiting,
    tell: (text, undo) =>
      add({ text, undo, color: "secondary", timeout: undo ? UNDO_MS : TOLD_MS }),
    warn: (error) =>
      add({
        text: error instanceof Error ? error.message : String(error),
        color: "error",
        timeout: BAD_MS,
      }),
  };
  provide(KEY, notices);
  return notices;
}

export function useNotices(): Notices {
  const found = inject(KEY);
  if (!found) throw new Error("provideNotices was not called above");
  return found;
}
