<script setup lang="ts">
// All that was remarked in a study, by patch; each leads to its spot.
import { computed, ref } from "vue";

import type { Remark } from "@/api/types";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { moment } from "@/shared/lib/formats";
import RemarkDialog from "@/studies/shared/remarks/RemarkDialog.vue";
import { useRemarks } from "@/studies/shared/remarks/queries";
import { byPatch, lettersOf, saidBy } from "@/studies/shared/remarks/remarks";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study, columns, canEdit } = useStudyContext();
const remarks = useRemarks(() => study.value.id);
const groups = computed(() => byPatch(remarks.value, study.value.patches));
const open = ref<Remark>();
const frameOf = (r: Remark): string => study.value.frames.find((f) => f.id === r.frame)?.name ?? "";
</script>

<template>
  <section class="pt-5" aria-label="Remarks">
    <div class="block-head">
      <h2>Remarks</h2>
      <span class="soft">What was seen at a spot: placed in the close look, by a click.</span>
    </div>
    <p v-if="!groups.length" class="soft">
      No remarks yet. <router-link :to="`/studies/${study.id}/look`">Look closely</router-link> and
      click on a spot.
    </p>
    <v-table v-else>
      <thead>
        <tr>
          <th scope="col">No.</th>
          <th scope="col">Seen</th>
          <th scope="col">Holds for</th>
          <th scope="col">Where</th>
          <th scope="col">By</th>
          <th scope="col"><span class="visually-hidden">Acts</span></th>
        </tr>
      </thead>
      <tbody v-for="g in groups" :key="g.patch?.id ?? 0">
        <tr v-for="r in g.remarks" :key="r.id">
          <td class="mono">{{ r.number }}</td>
          <td>{{ saidBy(r) }}</td>
          <td>
            <template v-if="r.of_all">all</template>
            <span v-else class="d-flex ga-1">
              <LetterBox v-for="l in lettersOf(r, columns)" :key="l" :letter="l" />
            </span>
          </td>
          <td>
            <router-link :to="`/studies/${study.id}/look?remark=${r.id}&zoom=2`"
              >{{ g.patch?.name ?? "no patch" }}, {{ frameOf(r) }}</router-link
            >
          </td>
          <td class="soft">{{ r.author }}, {{ moment(r.created) }}</td>
          <td>
            <TextAction v-if="canEdit" :aria-label="`Edit remark ${r.number}`" @click="open = r"
              >Edit</TextAction
            >
          </td>
        </tr>
      </tbody>
    </v-table>
    <RemarkDialog
      :study="study.id"
      :of="open"
      :columns="columns"
      :can-edit="canEdit"
      @close="open = undefined"
    />
  </section>
</template>
