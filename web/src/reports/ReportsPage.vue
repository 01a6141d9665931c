<script setup lang="ts">
import { usePageTitle } from "@/shared/lib/useTitle";

import EditionList from "./EditionList.vue";
import { useReports } from "./queries";

const { data: reports, error } = useReports();
usePageTitle("Reports");
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Reports</h1>
        <p class="soft">
          What this bench has published. Anybody can read these addresses; everything else needs an
          account. <a href="/reports/">The page of all reports</a> is what readers see first.
        </p>
      </div>
    </div>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <v-skeleton-loader v-else-if="!reports" type="article@2" />
    <section v-for="r in reports" :key="r.study" class="block">
      <h2>
        <router-link :to="`/studies/${r.study}/publish`" class="plain-link">{{
          r.question
        }}</router-link>
      </h2>
      <EditionList :editions="r.editions" />
    </section>
    <v-empty-state
      v-if="reports && !reports.length"
      title="Nothing published yet"
      text="An edition is published from the last stage of a study."
    >
      <template #actions><v-btn to="/studies">All studies</v-btn></template>
    </v-empty-state>
  </div>
</template>
