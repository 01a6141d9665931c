<script setup lang="ts">
// Which rows the wall has, and how its crops are shown.
import { computed } from "vue";

import { useStudyContext } from "@/studies/shared/useStudyContext";
import {
  AS_MADE,
  GAINED,
  GAINS,
  type Light,
  LIFTS,
  PLANE_WORDS,
  PLANES,
  signed,
} from "@/viewer/light";
import { MATCHES } from "@/viewer/matching";

const { study } = useStudyContext();
const frame = defineModel<string>("frame", { required: true });
const role = defineModel<string>("role", { required: true });
const light = defineModel<Light>("light", { required: true });
const roles = computed(() => [...new Set(study.value.patches.map((p) => p.role))]);
const frames = computed(() => [
  { value: "", title: `all ${study.value.frames.length}` },
  ...study.value.frames.map((f) => ({ value: String(f.id), title: f.name })),
]);
const kinds = computed(() => [
  { value: "", title: "all" },
  ...roles.value.map((r) => ({ value: r, title: r })),
]);
const changed = computed(() =>
  (["match", "lift", "plane", "clipped"] as const).filter(
    (name) => light.value[name] !== AS_MADE[name],
  ),
);
const set = computed(() => [frame.value, role.value].filter(Boolean).length + changed.value.length);
const matches = MATCHES.map((value) => ({
  value,
  title: value === "none" ? "as made" : `${value} matched`,
}));
const lifts = LIFTS.map((value) => ({ value, title: value ? `${signed(value)} EV` : "as made" }));
const planes = PLANES.map((value) => ({ value, title: PLANE_WORDS[value] }));
const gains = GAINS.map((value) => ({ value, title: `× ${value}` }));

function change(to: Partial<Light>): void {
  light.value = { ...light.value, ...to };
}

function clear(): void {
  frame.value = "";
  role.value = "";
  light.value = AS_MADE;
}
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props }">
      <v-btn v-bind="props" height="30">Filter{{ set ? ` ${set}` : "" }}</v-btn>
    </template>
    <v-card class="stack filter">
      <v-select v-model="frame" label="Frames" :items="frames" />
      <v-select v-model="role" label="Patch types" :items="kinds" />
      <v-select
        :model-value="light.match"
        label="Brightness of crops"
        :items="matches"
        hint="For looking only; readings stay as they are"
        persistent-hint
        @update:model-value="change({ match: $event })"
      />
      <v-select
        :model-value="light.lift"
        label="Light of crops"
        :items="lifts"
        @update:model-value="change({ lift: $event })"
      />
      <v-select
        :model-value="light.plane"
        label="Plane of crops"
        :items="planes"
        @update:model-value="change({ plane: $event })"
      />
      <v-select
        v-if="GAINED.includes(light.plane)"
        :model-value="light.gain"
        label="Gain"
        :items="gains"
        @update:model-value="change({ gain: $event })"
      />
      <v-checkbox
        :model-value="light.clipped"
        label="Mark what is cut off"
        @update:model-value="change({ clipped: $event === true })"
      />
      <TextAction v-if="set" @click="clear">Show all as made</TextAction>
    </v-card>
  </v-menu>
</template>

<style scoped>
.filter {
  width: 300px;
}
</style>
