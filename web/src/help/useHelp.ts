// What `?` tells: the keys that the page has taken, its terms, its piece of the guide.
import { inject, type InjectionKey, onScopeDispose, provide, ref, type Ref } from "vue";

export interface KeyWords {
  /** As VHotkey reads it: "ctrl+a", "arrowleft". */
  keys: string;
  does: string;
}

export interface Help {
  open: Ref<boolean>;
  keys: Ref<readonly KeyWords[]>;
}

const KEY: InjectionKey<Help> = Symbol("help");

export function provideHelp(): Help {
  const help = { open: ref(false), keys: ref<readonly KeyWords[]>([]) };
  provide(KEY, help);
  return help;
}

export function useHelp(): Help {
  const found = inject(KEY);
  if (!found) throw new Error("provideHelp was not called above");
  return found;
}

/** Tell the help which keys a page has, for as long as it stands. */
export function useKeyWords(words: readonly KeyWords[]): void {
  const { keys } = useHelp();
  keys.value = words;
  onScopeDispose(() => {
    if (keys.value === words) keys.value = [];
  });
}
