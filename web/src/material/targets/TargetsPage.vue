<script setup lang="ts">
// Target sheets: what each shows, where it was found, and the file to print or to show.
import { computed, ref } from "vue";

import type { Target } from "@/api/types";
import { useSession } from "@/api/session";
import { useTargets } from "@/material/targets/queries";
import { useTargetChanges } from "@/material/mutations";
import { usePageTitle } from "@/shared/lib/useTitle";
import { counted } from "@/shared/lib/words";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import FrameThumb from "@/viewer/FrameThumb.vue";

const { data: targets, error } = useTargets();
const { data: session } = useSession();
const changes = useTargetChanges();
usePageTitle("Targets");
const canEdit = computed(() => session.value?.role !== "viewer");
const removing = ref<Target>();
const asked = ref(false);

function askToRemove(target: Target): void {
  removing.value = target;
  asked.value = true;
}

function remove(): void {
  if (removing.value) void changes.remove(removing.value.id, removing.value.name);
}

function size(target: Target): string {
  const { width, height, blur } = target.sheet as { width: number; height: number; blur: number };
  return `${width} × ${height} px, every edge under a Gaussian of ${blur} px`;
}
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Targets</h1>
        <p class="soft prose">
          Test sheets whose content is known exactly. Print one or show it on a screen, photograph
          it, and it is found and measured automatically in any frame that shows its four marks.
        </p>
      </div>
      <span v-if="canEdit" class="row">
        <v-btn v-if="targets?.length" :loading="changes.busy.value" @click="changes.look"
          >Look in all frames</v-btn
        >
        <v-btn to="/targets/new" variant="flat">Add target</v-btn>
      </span>
    </div>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <v-empty-state
      v-else-if="targets && !targets.length"
      title="No targets yet"
      text="A target is a painted test sheet: slanted edges, dead leaves, a Siemens star, a wedge, fine lines or lights."
    />
    <article
      v-for="t in targets"
      :key="t.id"
      style="--columns: 240px minmax(0, 1fr) 190px"
      class="block target in-grid ga-6 columns folds"
    >
      <router-link v-if="t.picture && t.frame" :to="`/frames/${t.frame}`">
        <FrameThumb :picture="t.picture" :label="`${t.name}, whole sheet`" :width="240" />
      </router-link>
      <p v-else class="soft painting pa-3">Being painted.</p>
      <div>
        <h2>{{ t.name }}</h2>
        <p>
          {{ size(t) }}; number <span class="mono">{{ t.number }}</span> in its strip
        </p>
        <ol class="fields d-block pl-5 mt-2">
          <li v-for="(line, i) in t.words" :key="i">{{ line }}</li>
        </ol>
      </div>
      <div class="ends in-grid ga-1 align-content-start justify-items-start">
        <p>{{ t.found ? `found in ${counted(t.found, "frame")}` : "found in no frame yet" }}</p>
        <a v-if="t.picture" :href="`/api/pictures/${t.picture.id}/original`"
          >Download for printing</a
        >
        <router-link v-if="t.frame" :to="`/frames/${t.frame}`">Open its frame</router-link>
        <TextAction v-if="canEdit" :aria-label="`Remove ${t.name}`" @click="askToRemove(t)">
          Remove
        </TextAction>
      </div>
    </article>
    <ConfirmDialog
      v-model="asked"
      :title="`Remove ${removing?.name}?`"
      text="The sheet, its frame and what was found of it in other frames go. A sheet that a study uses stays."
      action="Remove"
      @confirmed="remove"
    />
  </div>
</template>

<style scoped>
.painting {
  background: var(--hair);
  height: 158px;
}
</style>
