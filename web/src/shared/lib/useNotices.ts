// One line at the foot of the window that says what happened.
import { inject, type InjectionKey, provide, ref, type Ref } from "vue";

export interface Notices {
  shown: Ref<boolean>;
  text: Ref<string>;
  bad: Ref<boolean>;
  tell: (text: string) => void;
  warn: (error: unknown) => void;
}

const KEY: InjectionKey<Notices> = Symbol("notices");

export function provideNotices(): Notices {
  const shown = ref(false);
  const text = ref("");
  const bad = ref(false);
  const say = (words: string, isBad: boolean) => {
    text.value = words;
    bad.value = isBad;
    shown.value = true;
  };
  const notices = {
    shown,
    text,
    bad,
    tell: (words: string) => say(words, false),
    warn: (error: unknown) => say(error instanceof Error ? error.message : String(error), true),
  };
  provide(KEY, notices);
  return notices;
}

export function useNotices(): Notices {
  const found = inject(KEY);
  if (!found) throw new Error("provideNotices was not called above");
  return found;
}
