<script setup lang="ts">
// Folders of outputs made elsewhere: dropped here, and matched on a page of their own.
import { computed } from "vue";
import { useRouter } from "vue-router";

import { useFolders } from "@/studies/folders/queries";
import { useFolderChanges } from "./mutations";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import DropZone from "@/shared/ui/DropZone.vue";
import { counted } from "@/shared/lib/words";
import { droppedFiles, type Found, rooted } from "@/uploads/folders";
import { send } from "@/uploads/store";

const { study, canEdit } = useStudyContext();
const { data: folders } = useFolders(computed(() => study.value.id));
const { busy, add } = useFolderChanges(() => study.value.id);
const router = useRouter();

async function bring(files: Found[]): Promise<void> {
  if (!files.length) return;
  const name = files[0]?.path.includes("/") ? (files[0].path.split("/")[0] ?? "") : "";
  const made = await add(name);
  if (!made) return;
  for (const f of files) send({ kind: "folder file", folder: made.id, path: f.path }, [f.file]);
  await router.push(`/studies/${study.value.id}/folders/${made.id}`);
}

async function dropped(event: DragEvent): Promise<void> {
  if (event.dataTransfer) await bring(await droppedFiles(event.dataTransfer));
}
const WORDS = { open: "to be confirmed", confirmed: "added", undone: "undone" } as const;
</script>

<template>
  <section class="block">
    <div class="block-head">
      <h2>Folders of outputs</h2>
      <span class="soft"
        >Outputs made elsewhere, named in your own way: each file is matched to a cell, and you
        confirm.</span
      >
    </div>
    <ul v-if="folders?.length" class="bare pb-2">
      <li v-for="f in folders" :key="f.id" class="row py-1">
        <router-link :to="`/studies/${study.id}/folders/${f.id}`">{{ f.name }}</router-link>
        <span class="soft">{{ counted(f.files, "file") }}, {{ WORDS[f.state] }}</span>
      </li>
    </ul>
    <DropZone
      v-if="canEdit"
      folder
      label="Choose folder"
      hint="or drop it here. Files are recognised by prefix, suffix, folder, number or letter."
      :busy="busy"
      @files="(files) => bring(rooted(files))"
      @dropped="dropped"
    />
  </section>
</template>
