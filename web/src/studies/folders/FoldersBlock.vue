<script setup lang="ts">
// Folders of outputs made elsewhere: dropped here, and matched on a page of their own.
import { computed, ref, useTemplateRef } from "vue";
import { useRouter } from "vue-router";

import { api, ask } from "@/api/client";
import { useFolders } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { counted } from "@/shared/lib/words";
import { droppedFiles, type Found, rooted } from "@/uploads/folders";
import { send } from "@/uploads/store";

const { study, canEdit } = useStudyContext();
const { data: folders } = useFolders(computed(() => study.value.id));
const { busy, act } = useAct();
const router = useRouter();
const over = ref(false);
const input = useTemplateRef<HTMLInputElement>("input");

async function bring(files: Found[]): Promise<void> {
  if (!files.length) return;
  const params = { path: { study_id: study.value.id } };
  const name = files[0]?.path.includes("/") ? (files[0].path.split("/")[0] ?? "") : "";
  const made = await act(() =>
    ask(api.POST("/api/studies/{study_id}/folders", { params, body: { name } })),
  );
  if (!made) return;
  for (const f of files) send({ kind: "folder file", folder: made.id, path: f.path }, [f.file]);
  await router.push(`/studies/${study.value.id}/folders/${made.id}`);
}

async function dropped(event: DragEvent): Promise<void> {
  over.value = false;
  if (event.dataTransfer) await bring(await droppedFiles(event.dataTransfer));
}

function chosen(): void {
  void bring(rooted([...(input.value?.files ?? [])]));
  if (input.value) input.value.value = "";
}
const WORDS = { open: "to be looked at", confirmed: "confirmed", undone: "undone" } as const;
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>A folder of outputs</h2>
      <span class="soft"
        >Made elsewhere, named in your own way: every file is proposed a place, and you have the
        last word.</span
      >
    </div>
    <ul v-if="folders?.length" class="list">
      <li v-for="f in folders" :key="f.id">
        <router-link :to="`/studies/${study.id}/folders/${f.id}`">{{ f.name }}</router-link>
        <span class="soft">{{ counted(f.files, "file") }}, {{ WORDS[f.state] }}</span>
      </li>
    </ul>
    <div
      v-if="canEdit"
      class="zone"
      :class="{ over }"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="dropped"
    >
      <button type="button" class="link" :disabled="busy" @click="input?.click()">
        Choose a folder
      </button>
      <span class="soft"
        >or let go of one here. Its files can be named by prefix, suffix, folder, number or
        letter.</span
      >
      <input
        ref="input"
        type="file"
        class="visually-hidden"
        tabindex="-1"
        aria-label="Folder of outputs"
        multiple
        webkitdirectory
        @change="chosen"
      />
    </div>
  </section>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0 0 10px;
}
.list li {
  display: flex;
  gap: 14px;
  padding: 4px 0;
}
</style>
