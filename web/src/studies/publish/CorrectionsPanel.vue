<script setup lang="ts">
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import type { BlockKind } from "./blocks";
import CorrectionForm from "./CorrectionForm.vue";
import { useCorrections } from "./queries";
import { useCorrectionChanges } from "./mutations";

const { editions, kinds, next } = defineProps<{
  editions: readonly Shape["EditionOut"][];
  kinds: readonly BlockKind[];
  next: number;
}>();
const { study, canEdit } = useStudyContext();
const { data } = useCorrections(() => study.value.id);
const changes = useCorrectionChanges(() => study.value.id);
const rows = computed(() => data.value?.corrections ?? []);
const adding = ref(false);

async function add(body: Shape["CorrectionIn"]): Promise<void> {
  if (await changes.add(body)) adding.value = false;
}
</script>

<template>
  <section class="block" aria-label="Corrections">
    <div class="block-head">
      <h2>Corrections</h2>
      <span class="soft">What was wrong in an edition; the next one has it marked there.</span>
    </div>
    <p v-if="!rows.length" class="soft">None.</p>
    <ol v-else class="bare">
      <li v-for="c in rows" :key="c.id" class="py-2 hair-below">
        <p>
          <strong>Edition {{ c.edition }}, {{ c.where }}</strong
          >: {{ c.text }}
        </p>
        <p class="soft">
          {{ c.corrected_in ? `In edition ${c.corrected_in}.` : `Comes with edition ${next}.` }}
          <TextAction
            v-if="canEdit && !c.corrected_in"
            :aria-label="`Remove correction of ${c.where}`"
            @click="changes.remove(c.id)"
            >Remove</TextAction
          >
        </p>
      </li>
    </ol>
    <CorrectionForm
      v-if="adding"
      :editions="editions.map((e) => e.number)"
      :kinds="kinds"
      :patches="study.patches"
      :frames="study.frames"
      :letters="study.contenders.map((c) => c.letter)"
      :measures="data?.measures ?? []"
      :busy="changes.busy.value"
      @add="add"
      @cancel="adding = false"
    />
    <v-btn v-else-if="canEdit" class="mt-3" @click="adding = true">Add correction</v-btn>
  </section>
</template>
