// What the close look's outputs look like in the use that is chosen, made while one waits.
import { useQueries } from "@tanstack/vue-query";
import { computed } from "vue";

import { api, ask } from "@/api/client";
import { useUses } from "@/studies/shared/uses/queries";
import { IDENTITY } from "@/viewer/geometry";
import { useScreen } from "@/viewer/screen";
import { type AsSeen, lifeSize, seenMapping } from "./seen";
import type { Look } from "./useLook";

const AGAIN = 700; // ms

export interface Seeing {
  seen: AsSeen | undefined;
  /** Why it can not be had; empty while it is being made. */
  problem: string;
}

export function useSeeing(look: Look) {
  const uses = useUses();
  const { ppi } = useScreen();
  const use = computed(() =>
    look.arranged.arrangement === "difference"
      ? undefined
      : uses.value.find((u) => u.id === look.use.value),
  );
  /** Where a use that shows a part looks: at the patch, whatever is seen of it just now. */
  const centre = computed(() => {
    const [picture, patch] = [look.frame.value?.picture, look.patch.value];
    if (!picture || !patch) return { x: 0.5, y: 0.5 };
    const share = (v: number, of: number) => Math.min(1, Math.max(0, Number((v / of).toFixed(3))));
    return {
      x: share(patch.x + patch.w / 2, picture.width),
      y: share(patch.y + patch.h / 2, picture.height),
    };
  });
  const outputs = computed(() => {
    if (!use.value) return [];
    const shown = [...look.panes.value, look.against.value].map((p) => p?.output);
    return [...new Set(shown.flatMap((o) => (o?.state === "ready" && o.picture ? [o.id] : [])))];
  });
  const results = useQueries({
    queries: computed(() =>
      outputs.value.map((id) => ({
        queryKey: ["seen", id, use.value?.id, centre.value],
        queryFn: () =>
          ask(
            api.GET("/api/outputs/{output_id}/seen", {
              params: {
                path: { output_id: id },
                query: { use: use.value?.id ?? "", ...centre.value },
              },
            }),
          ),
        refetchInterval: (query: { state: { data: { seen: AsSeen | null } | undefined } }) =>
          query.state.data?.seen === null ? AGAIN : (false as const),
      })),
    ),
  });

  function of(output: number): Seeing {
    const result = results.value[outputs.value.indexOf(output)];
    return { seen: result?.data?.seen ?? undefined, problem: result?.error?.message ?? "" };
  }

  /** As large as in use, by the first pane that is there; false where the screen is not known. */
  function toLifeSize(): boolean {
    if (!ppi.value) return false;
    for (const { output } of look.panes.value) {
      const seen = output && of(output.id).seen;
      if (!use.value || !seen) continue;
      const lies =
        look.scale.value === "subject" ? seenMapping(output.lineup ?? IDENTITY, seen) : IDENTITY;
      look.zoomTo(lifeSize(use.value, lies, ppi.value));
      return true;
    }
    return true;
  }

  return { uses, use, centre, of, toLifeSize };
}

export type LookSeeing = ReturnType<typeof useSeeing>;
