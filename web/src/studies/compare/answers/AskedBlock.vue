<script setup lang="ts">
// What was asked of the whole study, each in its words, opened to its evidence.
import { computed } from "vue";

import { useInquiries } from "@/studies/compare/questions/queries";
import { titleOf } from "@/studies/compare/questions/questions";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const { study } = useStudyContext();
const { data } = useInquiries(() => study.value.id);
const asked = computed(() => data.value?.filter((one) => one.said.length) ?? []);
</script>

<template>
  <section v-if="asked.length" class="block" aria-label="Questions of the whole study">
    <h2>Questions of the whole study</h2>
    <div v-for="one in asked" :key="one.about + one.subject" class="py-1">
      <router-link :to="`/studies/${study.id}/questions/${one.about}`">{{
        titleOf(one.about)
      }}</router-link>
      <span v-if="!one.current" class="soft"> Something changed since.</span>
      <p v-for="words in one.said" :key="words">{{ words }}</p>
    </div>
  </section>
</template>
