<script setup lang="ts">
// What judges chose who were not told whose pictures they saw, beside what was measured.
import { computed } from "vue";

import { useSittings } from "@/studies/shared/sittings/queries";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const { data } = useSittings(() => study.value.id);
const closed = computed(() => data.value?.filter((s) => s.state === "closed" && s.answers) ?? []);
</script>

<template>
  <section v-if="closed.length" class="block" aria-label="Chosen blind">
    <h2>Chosen blind</h2>
    <p v-for="s in closed" :key="s.id">
      <router-link :to="`/studies/${study.id}/sittings/${s.id}`">{{ s.question }}</router-link>
      {{ s.said }}
      <span v-if="s.simulated" class="rowan">The judges are simulated.</span>
    </p>
  </section>
</template>
