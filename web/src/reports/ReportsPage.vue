<script setup lang="ts">
import { useReports } from "@/api/queries";
import EditionList from "./EditionList.vue";

const { data: reports, error } = useReports();
</script>

<template>
  <div class="page">
    <h1 class="head">Reports</h1>
    <p class="soft">
      What this bench has published. Anybody can read these addresses; everything else needs an
      account.
    </p>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <section v-for="r in reports" :key="r.study" class="block report">
      <h2>
        <router-link :to="`/studies/${r.study}/publish`">{{ r.question }}</router-link>
      </h2>
      <EditionList :editions="r.editions" />
    </section>
    <p v-if="reports && !reports.length" class="block soft">
      Nothing is published yet. An edition is published from the last stage of a study.
    </p>
  </div>
</template>

<style scoped>
.head {
  margin: 28px 0 4px;
}
.report a {
  color: var(--ink);
}
</style>
