<script setup lang="ts">
// A study's sittings: what each asked, how far it is, and what came of it.
import { computed, ref } from "vue";

import { useNamedCalls } from "@/studies/shared/namedCalls";
import { useSittings } from "@/studies/shared/sittings/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import ComposeDialog from "./ComposeDialog.vue";
import { STATE_WORDS } from "./words";

const { study, canEdit, columns } = useStudyContext();
const { data: sittings } = useSittings(() => study.value.id);
const { calls } = useNamedCalls(() => study.value.id);
const composing = ref(false);
const again = ref(false);
/** Patches and contenders that somebody called with names seen, and what they were held against. */
const called = computed(() => {
  const { patches } = study.value;
  const of = new Set(calls.value.map((c) => c.contender));
  const against = new Set(calls.value.map((c) => c.against));
  const seen = new Set(calls.value.map((c) => c.patch));
  return {
    letters: columns.value
      .filter((c) => of.has(c.id) || against.has(c.letter))
      .map((c) => c.letter),
    patches: patches.filter((p) => seen.has(p.id)).map((p) => p.id),
  };
});
</script>

<template>
  <section class="pt-3" aria-label="Sittings">
    <div class="block-head">
      <h2>Sittings</h2>
      <span class="soft"
        >Judges who are not told whose picture they see choose between two, pair by pair.</span
      >
      <TextAction v-if="canEdit && sittings?.length" @click="composing = true"
        >Compose a sitting</TextAction
      >
      <TextAction v-if="canEdit && called.patches.length" @click="again = true"
        >Judge blind what was called with names seen</TextAction
      >
    </div>
    <v-empty-state
      v-if="sittings && !sittings.length"
      headline="No sitting yet"
      text="A judgement made without seeing names is worth more. Choose patches and contenders; people here, or guests by a link, judge pairs of them."
    >
      <template v-if="canEdit" #actions>
        <v-btn variant="flat" @click="composing = true">Compose a sitting</v-btn>
      </template>
    </v-empty-state>
    <v-table v-else-if="sittings?.length">
      <thead>
        <tr>
          <th scope="col">No.</th>
          <th scope="col">Question</th>
          <th scope="col">State</th>
          <th scope="col" class="num">Judges</th>
          <th scope="col" class="num">Answers</th>
          <th scope="col">What came of it</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in sittings" :key="s.id">
          <td class="mono">{{ s.number }}</td>
          <td>
            <router-link :to="`/studies/${study.id}/sittings/${s.id}`">{{
              s.question
            }}</router-link>
          </td>
          <td :class="{ rowan: s.state === 'failed' }">
            {{ STATE_WORDS[s.state] }}{{ s.simulated ? ", simulated judges" : "" }}
          </td>
          <td class="num mono">{{ s.judges }}</td>
          <td class="num mono">{{ s.answers }}</td>
          <td>{{ s.said || (s.state === "closed" ? "" : "told once it is closed") }}</td>
        </tr>
      </tbody>
    </v-table>
    <ComposeDialog v-if="canEdit" v-model="composing" />
    <ComposeDialog v-if="canEdit && called.patches.length" v-model="again" :called="called" />
  </section>
</template>

<style scoped>
.num {
  text-align: right;
}
</style>
