<script setup lang="ts">
// How a second set of readings is taken, beside the one of outputs as they were made.
import { ref, watch } from "vue";

import { api, ask } from "@/api/client";
import type { Audit } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const props = defineProps<{ audit: Audit }>();
const { study, canEdit } = useStudyContext();
const { busy, act } = useAct();
const MATCH = [
  ["none", "as made"],
  ["exposure", "exposure, over the frame"],
  ["exposure per patch", "exposure, patch by patch"],
  ["exposure and tone", "exposure and tone"],
] as const;
const SIZE = [
  ["native", "each its own"],
  ["smallest", "the smallest"],
  ["largest", "the largest"],
] as const;
const match = ref(props.audit.match);
const size = ref(props.audit.size);
watch(
  () => [props.audit.match, props.audit.size],
  () => {
    match.value = props.audit.match;
    size.value = props.audit.size;
  },
);

function save(): Promise<unknown> {
  const params = { path: { study_id: study.value.id } };
  const body = { match: match.value, size: size.value };
  return act(() => ask(api.PUT("/api/studies/{study_id}/matching", { params, body })));
}
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Matched readings</h2>
      <span class="soft"
        >A second set beside the readings as made, named wherever it is shown.</span
      >
    </div>
    <form class="row" @submit.prevent="save">
      <label>
        Brightness
        <select v-model="match" class="quiet-select" :disabled="!canEdit">
          <option v-for="[value, words] in MATCH" :key="value" :value="value">{{ words }}</option>
        </select>
      </label>
      <label>
        Size
        <select v-model="size" class="quiet-select" :disabled="!canEdit">
          <option v-for="[value, words] in SIZE" :key="value" :value="value">{{ words }}</option>
        </select>
      </label>
      <v-btn
        v-if="canEdit"
        type="submit"
        size="small"
        :loading="busy"
        :disabled="match === audit.match && size === audit.size"
        >Take these readings</v-btn
      >
      <span class="soft now">{{
        audit.matched
          ? `Now: ${audit.matched}.`
          : "Now: none, outputs are measured as they were made."
      }}</span>
    </form>
    <p class="soft">
      Brightness is matched to the frame's, from averaged areas at full depth. One size means as
      many pixels for each of the frame's, by a Lanczos filter, antialiased where it gets smaller.
    </p>
  </section>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  align-items: baseline;
  padding-bottom: 8px;
}
</style>
