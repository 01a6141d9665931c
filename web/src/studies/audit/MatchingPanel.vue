<script setup lang="ts">
// How a second set of readings is taken, beside the one of outputs as they were made.
import { ref, watch } from "vue";

import type { Audit } from "@/api/types";
import { useDecisions } from "./mutations";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const props = defineProps<{ audit: Audit }>();
const { study, canEdit } = useStudyContext();
const changes = useDecisions(() => study.value.id);
const MATCH = [
  { value: "none", title: "as made" },
  { value: "exposure", title: "exposure, over the frame" },
  { value: "exposure per patch", title: "exposure, patch by patch" },
  { value: "exposure and tone", title: "exposure and tone" },
];
const SIZE = [
  { value: "native", title: "each output’s own" },
  { value: "smallest", title: "the smallest output’s" },
  { value: "largest", title: "the largest output’s" },
];
const match = ref(props.audit.match);
const size = ref(props.audit.size);
watch(
  () => [props.audit.match, props.audit.size],
  () => {
    match.value = props.audit.match;
    size.value = props.audit.size;
  },
);

const save = (): Promise<unknown> => changes.match({ match: match.value, size: size.value });
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Matched readings</h2>
      <span class="soft"
        >A second set beside the readings as made, named wherever it is shown.</span
      >
    </div>
    <v-form class="row matching align-end pb-2" @submit.prevent="save">
      <v-select v-model="match" label="Brightness" :items="MATCH" :disabled="!canEdit" />
      <v-select v-model="size" label="Size" :items="SIZE" :disabled="!canEdit" />
      <v-btn
        v-if="canEdit"
        type="submit"
        height="40"
        :loading="changes.busy.value"
        :disabled="match === audit.match && size === audit.size"
        >Take matched readings</v-btn
      >
      <span class="soft">{{
        audit.matched
          ? `Now: ${audit.matched}.`
          : "Now: none; outputs are measured as they were made."
      }}</span>
    </v-form>
    <p class="soft">
      Brightness is matched to the frame’s, from averaged areas at full depth. One size means the
      same number of pixels per frame pixel, by a Lanczos filter, antialiased when reduced.
    </p>
  </section>
</template>

<style scoped>
.matching .v-input {
  flex: 0 1 240px;
}
</style>
