<script setup lang="ts">
// Target sheets: what each shows, where it was found, and the file to print or to show.
import { computed, ref } from "vue";

import { api, ask } from "@/api/client";
import { type Target, useSession, useTargets } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import FrameThumb from "@/viewer/FrameThumb.vue";

const { data: targets, error } = useTargets();
const { data: session } = useSession();
const { busy, act } = useAct();
const canEdit = computed(() => session.value?.role !== "viewer");
const removing = ref<Target>();
const asked = ref(false);

function look(): void {
  void act(
    () => ask(api.POST("/api/targets/look")),
    "Looking for targets in all frames; the queue shows how far.",
  );
}

function askToRemove(target: Target): void {
  removing.value = target;
  asked.value = true;
}

function remove(): void {
  if (!removing.value) return;
  const params = { path: { target_id: removing.value.id } };
  void act(
    () => ask(api.DELETE("/api/targets/{target_id}", { params })),
    `${removing.value.name} removed.`,
  );
}

function size(target: Target): string {
  const { width, height, blur } = target.sheet as { width: number; height: number; blur: number };
  return `${width} x ${height} px, every edge under a Gaussian of ${blur} px`;
}
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Targets</h1>
        <p class="soft intro">
          Sheets painted by rule, so that what they show is known exactly. Print one or show one on
          a screen, photograph it, and it is found and measured by itself in any frame that shows
          its four marks.
        </p>
      </div>
      <span v-if="canEdit" class="acts">
        <v-btn v-if="targets?.length" :loading="busy" @click="look">Look in all frames</v-btn>
        <v-btn to="/targets/new" variant="flat">Make a target</v-btn>
      </span>
    </div>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <p v-else-if="targets && !targets.length" class="soft block">
      No target yet. Make one: slanted edges, dead leaves, a Siemens star, a wedge, fine lines or
      lights.
    </p>
    <article v-for="t in targets" :key="t.id" class="block target">
      <router-link v-if="t.picture && t.frame" :to="`/frames/${t.frame}`">
        <FrameThumb :picture="t.picture" :label="`${t.name}, whole sheet`" :width="240" />
      </router-link>
      <p v-else class="soft painting">Being painted.</p>
      <div>
        <h2>{{ t.name }}</h2>
        <p>
          {{ size(t) }}; number <span class="mono">{{ t.number }}</span> in its strip
        </p>
        <ol class="fields">
          <li v-for="(line, i) in t.words" :key="i">{{ line }}</li>
        </ol>
      </div>
      <div class="ends">
        <p>{{ t.found ? `found in ${counted(t.found, "frame")}` : "found in no frame yet" }}</p>
        <a v-if="t.picture" :href="`/api/pictures/${t.picture.id}/original`">Download to print</a>
        <router-link v-if="t.frame" :to="`/frames/${t.frame}`">Look at its frame</router-link>
        <button
          v-if="canEdit"
          type="button"
          class="link"
          :aria-label="`Remove ${t.name}`"
          @click="askToRemove(t)"
        >
          Remove
        </button>
      </div>
    </article>
    <ConfirmDialog
      v-model="asked"
      :title="`Remove ${removing?.name}?`"
      text="The sheet, its frame and what was found of it in other frames go. A sheet that a study uses stays."
      action="Remove it"
      @confirmed="remove"
    />
  </div>
</template>

<style scoped>
.intro {
  max-width: 720px;
}
.acts {
  display: flex;
  gap: 12px;
  flex: none;
}
.target {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr) 190px;
  gap: 24px;
}
.painting {
  background: var(--hair);
  padding: 12px;
  height: 158px;
}
.fields {
  padding-left: 20px;
  margin-top: 6px;
}
.ends {
  display: grid;
  gap: 5px;
  align-content: start;
  justify-items: start;
}
</style>
