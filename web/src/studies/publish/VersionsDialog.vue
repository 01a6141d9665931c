<script setup lang="ts">
// Earlier states of the report, to be brought back into the editor.
import { ref } from "vue";

import { useStudyContext } from "@/studies/shared/useStudyContext";
import { useNotices } from "@/shared/lib/useNotices";
import { moment } from "@/shared/lib/formats";
import type { Texts } from "./blocks";
import { readVersion, useVersions } from "./queries";

const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ take: [texts: Texts] }>();
const { study, canEdit } = useStudyContext();
const { data, error } = useVersions(() => study.value.id);
const notices = useNotices();
const reading = ref<number>();

async function take(version: number): Promise<void> {
  reading.value = version;
  try {
    emit("take", await readVersion(study.value.id, version));
    open.value = false;
  } catch (why) {
    notices.warn(why);
  } finally {
    reading.value = undefined;
  }
}
</script>

<template>
  <v-dialog v-model="open" max-width="640" scrollable aria-label="Earlier versions of the report">
    <v-card>
      <div class="stack">
        <h2>Earlier versions</h2>
        <p class="soft">
          A version brought back stands in the editor, to be looked at and saved; the one of now
          stays in this list.
        </p>
        <p v-if="error" class="rowan">{{ error.message }}</p>
        <p v-else-if="data && !data.length" class="soft">Nothing was saved yet.</p>
        <v-table v-else density="compact">
          <thead>
            <tr>
              <th scope="col">Saved</th>
              <th scope="col">By</th>
              <th scope="col"></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(v, i) in data" :key="v.id">
              <td class="mono">{{ moment(v.saved) }}</td>
              <td>
                {{ v.author || "before versions were kept" }}
                <span v-if="v.auto" class="soft">while writing</span>
              </td>
              <td class="text-right">
                <span v-if="i === 0" class="soft">the newest</span>
                <v-btn
                  v-else-if="canEdit"
                  size="small"
                  :loading="reading === v.id"
                  :aria-label="`Bring back the version of ${moment(v.saved)}`"
                  @click="take(v.id)"
                  >Bring back</v-btn
                >
              </td>
            </tr>
          </tbody>
        </v-table>
        <div class="dialog-acts">
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </div>
    </v-card>
  </v-dialog>
</template>
