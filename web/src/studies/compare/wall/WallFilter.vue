<script setup lang="ts">
// Which rows and columns the wall has, in which order, and how its crops are shown.
import { computed } from "vue";

import type { Measure } from "@/api/types";
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

import { lettersIn, RANK, TOOL } from "./columns";
import type { Wall } from "./useWall";

const { study, columns } = useStudyContext();
const props = defineProps<{ wall: Wall; measures: readonly Measure[] }>();
const { frame, role, kind, rowOrder, spot, turned, order, moved, held, hidden } = props.wall;
const crops = defineModel<string>("crops", { required: true });
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
const set = computed(
  () =>
    [frame, role, kind, rowOrder, spot, turned, order, moved, held, hidden].filter((r) => r.value)
      .length + changed.value.length,
);
const scenes = computed(() => [
  { value: "", title: "all" },
  ...[...new Set(study.value.frames.flatMap((f) => f.scene?.kinds ?? []))].map((k) => ({
    value: k as string,
    title: k as string,
  })),
]);
const spots = computed(() => [
  { value: "", title: "patches" },
  ...study.value.patches.map((p) => ({
    value: String(p.id),
    title: `every frame at ${p.name}`,
  })),
]);
const ROWS = [
  { value: "", title: "own order" },
  { value: "differ", title: "where contenders differ most first" },
];
const orders = computed(() => [
  { value: "", title: "as entered" },
  { value: RANK, title: "by rank in what is told, best first" },
  { value: TOOL, title: "by tool" },
  ...props.measures.map((m) => ({ value: m.id, title: `by ${m.name}, best first` })),
]);
const CROPS = [
  { value: "", title: "small" },
  { value: "large", title: "large" },
];
const gone = computed(() => lettersIn(hidden.value));
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
  for (const one of [frame, role, kind, rowOrder, spot, turned, order, moved, held, hidden])
    one.value = "";
  light.value = AS_MADE;
}
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: opens }">
      <v-btn v-bind="opens" height="30">Arrange{{ set ? ` ${set}` : "" }}</v-btn>
    </template>
    <v-card class="stack filter">
      <v-select v-model="spot" label="Rows are" :items="spots" />
      <template v-if="!spot">
        <v-select v-model="frame" label="Frames" :items="frames" />
        <v-select v-model="role" label="Patch types" :items="kinds" />
        <v-select v-if="scenes.length > 1" v-model="kind" label="Kinds of scene" :items="scenes" />
      </template>
      <v-select v-model="rowOrder" label="Order of rows" :items="ROWS" />
      <v-select v-model="order" label="Order of columns" :items="orders" />
      <v-checkbox
        :model-value="turned === '1'"
        label="Contenders in rows"
        @update:model-value="turned = $event ? '1' : ''"
      />
      <v-select v-model="crops" label="Size of crops" :items="CROPS" />
      <div v-if="gone.length" class="small">
        Hidden:
        <TextAction
          v-for="l in gone"
          :key="l"
          class="mr-2"
          :aria-label="`Show column ${l}`"
          @click="wall.hide(l)"
          >{{ l }} {{ columns.find((c) => c.letter === l)?.title }}</TextAction
        >
      </div>
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
      <TextAction v-if="set" @click="clear">Reset</TextAction>
    </v-card>
  </v-menu>
</template>

<style scoped>
.filter {
  width: 320px;
  max-height: 80vh;
  overflow-y: auto;
}
</style>
