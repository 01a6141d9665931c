<script setup lang="ts">
import { computed, useTemplateRef } from "vue";

import type { Contender, Patch } from "@/api/types";
import type { Pane } from "./useLook";
import { IDENTITY, magnifications, type View } from "@/viewer/geometry";
import { tableFor, type ViewMatch } from "@/viewer/matching";
import TileCanvas from "@/viewer/TileCanvas.vue";
import { usePanZoom } from "@/viewer/usePanZoom";
import { named } from "@/shared/lib/words";
import LetterBox from "@/shared/ui/LetterBox.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";

const props = defineProps<{
  pane: Pane;
  choices: readonly Contender[];
  view: View;
  patch: Patch | undefined;
  active: boolean;
  match: ViewMatch;
}>();
const emit = defineEmits<{
  choose: [];
  show: [letter: string];
  pan: [dx: number, dy: number];
  zoom: [direction: 1 | -1, x?: number, y?: number];
  point: [x: number, y: number, size: { width: number; height: number }];
}>();
const tiles = useTemplateRef<InstanceType<typeof TileCanvas>>("tiles");
const ground = useTemplateRef<HTMLElement>("ground");
const output = computed(() => props.pane.output);
const shown = computed(() => (output.value?.state === "ready" ? output.value.picture : null));
const table = computed(() => tableFor(props.match, output.value?.tone));
const both = computed(() => magnifications(props.view, output.value?.lineup ?? IDENTITY));
const why = computed(() => {
  if (!output.value)
    return props.pane.contender.kind === "truth"
      ? "This frame has no truth."
      : "No output of this frame yet.";
  return output.value.problem || "It is still being taken in and lined up.";
});
const { canvas, wheel, on } = usePanZoom(ground, {
  pan: (dx, dy) => emit("pan", dx, dy),
  zoom: (direction, x, y) => emit("zoom", direction, x, y),
  hover: (x, y) => emit("point", x, y, canvas.value),
});

/** What this pane shows at a canvas point. */
function sample(x: number, y: number): { letter: string; codes: [number, number, number] } | null {
  const codes = shown.value ? tiles.value?.codesAt(x, y) : null;
  return codes ? { letter: props.pane.contender.letter, codes } : null;
}

defineExpose({ sample });
</script>

<template>
  <section
    class="pane in-grid shrinks"
    :class="{ active }"
    :aria-label="`Pane with ${pane.contender.letter}`"
    tabindex="0"
    @focusin="emit('choose')"
  >
    <header class="in-grid gc-2 align-center align-content-center px-3 rule-below shrinks">
      <LetterBox :letter="pane.contender.letter" />
      <QuietSelect
        label="Shows"
        :model-value="pane.contender.letter"
        :items="choices.map((c) => ({ value: c.letter, title: named(c) }))"
        @update:model-value="emit('show', String($event))"
      />
      <span class="mono soft both text-no-wrap overflow-hidden text-truncate"
        >{{ both }}<template v-if="table">, {{ match }} matched</template></span
      >
    </header>
    <div
      ref="ground"
      class="ground on-surround cursor-grab still shrinks"
      v-on="on"
      @pointerdown="emit('choose')"
      @wheel.prevent="wheel"
    >
      <TileCanvas
        v-if="shown"
        ref="tiles"
        :picture="shown"
        :mapping="output?.lineup"
        :view="view"
        :table="table"
        :label="`${patch?.name ?? 'frame'} of ${pane.contender.letter}`"
      />
      <p v-else class="none text-center">{{ why }}</p>
    </div>
  </section>
</template>

<style scoped>
.pane {
  grid-template-rows: 60px minmax(0, 1fr);
  border-right: 1px solid var(--ink);
}
.pane:last-child {
  border-right: 0;
}
header {
  grid-template-columns: auto minmax(0, 1fr);
}
.active header {
  box-shadow: inset 0 2px 0 var(--ink);
}
.both {
  grid-column: 1 / -1;
}
.none {
  background: var(--paper);
  color: var(--ink);
  padding: 40px 24px;
}
</style>
