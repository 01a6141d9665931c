// A picture that the server makes of what is being put together, made anew a moment after every
// change.
import { onScopeDispose, ref, watch } from "vue";

import { csrf, detailOf } from "@/api/client";
import { patiently } from "@/api/patient";

const WAIT_MS = 300;

/** `wanted` tells where to ask and with what; undefined where there is nothing to show yet. */
export function useServerPicture(wanted: () => { url: string; body: unknown } | undefined) {
  const shown = ref("");
  const problem = ref("");
  let timer = 0;
  let asked = 0;

  /** The newest answer wins; an older one that comes late is dropped. */
  async function ask(): Promise<void> {
    const mine = ++asked;
    const now = wanted();
    if (!now) return show("", "");
    const request = new Request(now.url, {
      method: "POST",
      headers: { "Content-Type": "application/json", "X-CSRFToken": csrf() },
      body: JSON.stringify(now.body),
    });
    const answer = await patiently(request).catch(() => undefined);
    if (mine !== asked) return;
    if (!answer)
      return show(shown.value, "The server does not answer; the picture is out of date.");
    if (!answer.ok) return show("", detailOf(await answer.json().catch(() => null)));
    show(URL.createObjectURL(await answer.blob()), "");
  }

  function show(url: string, why: string): void {
    if (shown.value && shown.value !== url) URL.revokeObjectURL(shown.value);
    shown.value = url;
    problem.value = why;
  }

  watch(
    () => JSON.stringify(wanted()),
    () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => void ask(), WAIT_MS);
    },
    { immediate: true },
  );
  onScopeDispose(() => {
    window.clearTimeout(timer);
    show("", "");
  });

  return { shown, problem };
}
