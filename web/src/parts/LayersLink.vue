<script setup lang="ts">
// A frame's outputs as one layered file: put together when asked for, then downloaded.
import { onBeforeUnmount, ref } from "vue";

import { api, ask } from "../api/client";
import { useNotices } from "../composables/useNotices";

const props = defineProps<{ study: number; frame: number; name: string }>();
const notices = useNotices();
const busy = ref(false);
const PAUSE_MS = 1200;
let gone = false;

async function fetchIt(grid: "frame" | "largest"): Promise<void> {
  busy.value = true;
  const params = { path: { study_id: props.study, frame_id: props.frame }, query: { grid } };
  try {
    for (;;) {
      const { ready } = await ask(api.POST("/api/studies/{study_id}/frames/{frame_id}/layers", { params }));
      if (gone) return;
      if (ready) break;
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
    window.location.assign(`/api/studies/${props.study}/frames/${props.frame}/layers?grid=${grid}`);
  } catch (error) {
    notices.warn(error);
  } finally {
    busy.value = false;
  }
}

function chosen(event: Event): void {
  const select = event.target as HTMLSelectElement;
  const grid = select.value;
  select.value = "";
  if (grid === "frame" || grid === "largest") void fetchIt(grid);
}
onBeforeUnmount(() => (gone = true));
</script>

<template>
  <label class="layers">
    <span class="visually-hidden">Layers of {{ name }} as OpenRaster</span>
    <select class="quiet-select" :disabled="busy" @change="chosen">
      <option value="">{{ busy ? "Putting layers together" : "Get as layers" }}</option>
      <option value="frame">at the frame's size (.ora)</option>
      <option value="largest">at the largest output's (.ora)</option>
    </select>
  </label>
</template>

<style scoped>
.layers {
  display: block;
  margin-top: 8px;
  font-weight: 400;
}
.quiet-select {
  max-width: 128px;
}
</style>
