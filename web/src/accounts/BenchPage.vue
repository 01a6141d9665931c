<script setup lang="ts">
// For owners: people, storage, programs and the trail of this bench.
import { computed } from "vue";

import { useSession } from "@/api/session";
import { usePageTitle } from "@/shared/lib/useTitle";

import HooksPanel from "./HooksPanel.vue";
import PeoplePanel from "./PeoplePanel.vue";
import StoragePanel from "./StoragePanel.vue";
import TrailPanel from "./TrailPanel.vue";

const props = defineProps<{ part: string }>();
const { data: session } = useSession();
const PARTS = {
  people: PeoplePanel,
  storage: StoragePanel,
  programs: HooksPanel,
  trail: TrailPanel,
};
usePageTitle(() => `Bench, ${props.part}`);
const shown = computed(() => PARTS[props.part as keyof typeof PARTS]);
</script>

<template>
  <div class="page">
    <div class="page-top"><h1>Bench</h1></div>
    <p v-if="session?.role !== 'owner'" class="soft">
      People, storage, programs and the trail are managed by owners. Ask one for what you need.
    </p>
    <template v-else>
      <v-tabs aria-label="Parts of the bench" class="mb-4">
        <v-tab to="/bench/people">People</v-tab>
        <v-tab to="/bench/storage">Storage</v-tab>
        <v-tab to="/bench/programs">Programs</v-tab>
        <v-tab to="/bench/trail">Trail</v-tab>
      </v-tabs>
      <component :is="shown" />
    </template>
  </div>
</template>
