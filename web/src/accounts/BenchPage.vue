<script setup lang="ts">
// For owners: people, storage and the trail of this bench.
import { computed } from "vue";

import { useSession } from "@/api/session";
import PeoplePanel from "./PeoplePanel.vue";
import StoragePanel from "./StoragePanel.vue";
import TrailPanel from "./TrailPanel.vue";

const props = defineProps<{ part: string }>();
const { data: session } = useSession();
const PARTS = { people: PeoplePanel, storage: StoragePanel, trail: TrailPanel };
const shown = computed(() => PARTS[props.part as keyof typeof PARTS]);
</script>

<template>
  <div class="page">
    <h1 class="head">Bench</h1>
    <p v-if="session?.role !== 'owner'" class="soft">
      People, storage and the trail are managed by owners. Ask one for what you need.
    </p>
    <template v-else>
      <v-tabs aria-label="Parts of the bench" class="tabs">
        <v-tab to="/bench/people">People</v-tab>
        <v-tab to="/bench/storage">Storage</v-tab>
        <v-tab to="/bench/trail">Trail</v-tab>
      </v-tabs>
      <component :is="shown" />
    </template>
  </div>
</template>

<style scoped>
.head {
  margin: 28px 0 10px;
}
.tabs {
  margin-bottom: 20px;
}
</style>
