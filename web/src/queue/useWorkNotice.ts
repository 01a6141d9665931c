// A notice of the browser when long work is done and nobody is looking. It is asked for once, on
// the queue's page.
import { useWebNotification } from "@vueuse/core";
import { computed, type Ref, watch } from "vue";

import { usePreference } from "@/shared/lib/usePreference";

const LONG_MS = 20_000;

export function useNoticeChoice() {
  const wanted = usePreference<"" | "yes" | "no">("work-notice", "");
  const { isSupported, ensurePermissions } = useWebNotification({ requestPermissions: false });

  async function choose(yes: boolean): Promise<void> {
    wanted.value = yes && (await ensurePermissions()) ? "yes" : "no";
  }

  return { choose, wanted, asks: computed(() => isSupported.value && wanted.value === "") };
}

export function useWorkNotice(active: Ref<number>): void {
  const { wanted } = useNoticeChoice();
  const { show } = useWebNotification({
    title: "Glenhail: the queue is empty",
    requestPermissions: false,
  });
  let began = 0;
  watch(active, (now, before) => {
    if (now && !before) began = Date.now();
    const long = began && Date.now() - began > LONG_MS;
    if (!now && before && long && document.hidden && wanted.value === "yes") void show();
  });
}
