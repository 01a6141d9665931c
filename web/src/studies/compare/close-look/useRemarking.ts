// Remarks in the close look: those of the frame, the one that is placed or opened, what is shown.
import { computed, type Ref, ref, shallowRef, watch } from "vue";
import { useRoute } from "vue-router";

import type { Remark } from "@/api/types";
import type { Placing } from "@/studies/shared/remarks/RemarkDialog.vue";
import { concerns, lettersOf } from "@/studies/shared/remarks/remarks";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { Look } from "./useLook";

export function useRemarking(look: Look, all: Readonly<Ref<readonly Remark[]>>) {
  const { columns, canEdit } = useStudyContext();
  const route = useRoute();
  const ofFrame = computed(() => all.value.filter((r) => r.frame === look.frameId.value));
  const open = shallowRef<Placing | Remark>();
  /** While a key is held: where all of them are. */
  const held = ref(false);
  const pointed = ref<number>();

  const of = (contender: number): Remark[] => ofFrame.value.filter((r) => concerns(r, contender));

  function place(x: number, y: number, contender: number | undefined): void {
    const picture = look.frame.value?.picture;
    const on = picture && x >= 0 && y >= 0 && x <= picture.width && y <= picture.height;
    if (on && canEdit.value) open.value = { frame: look.frameId.value, x, y, contender };
  }

  // An address may name a remark: its spot, in the contenders that it is of.
  const asked = Number(route.query.remark);
  const stop = watch(
    () => all.value.find((r) => r.id === asked),
    (remark) => {
      if (!remark) return;
      look.goToSpot(remark.frame, remark.x, remark.y);
      lettersOf(remark, columns.value).slice(0, 1).forEach(look.show);
      pointed.value = remark.id;
      queueMicrotask(() => stop());
    },
    { immediate: true },
  );

  return { any: computed(() => all.value.length > 0), of, open, held, pointed, place };
}

export type Remarking = ReturnType<typeof useRemarking>;
