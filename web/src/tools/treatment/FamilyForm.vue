<script setup lang="ts">
// A whole family of contenders in one go; what it makes is shown before it is entered.
import { computed, ref, watch } from "vue";

import type { Shape } from "@/api/client";
import type { Treatment } from "@/api/types";
import { useSeries } from "@/tools/mutations";
import { counted } from "@/shared/lib/words";

const props = defineProps<{
  study: number;
  treatment: Treatment;
  releases: (tool: string) => string[];
}>();
const emit = defineEmits<{ done: []; cancel: [] }>();
const KINDS = [
  { value: "sweep", title: "one setting over values" },
  { value: "orders", title: "the steps in every order" },
  { value: "releases", title: "several releases" },
  { value: "feeds", title: "original file and TIFF as input" },
];
const { busy, add, preview } = useSeries(() => props.study);
const kind = ref<Shape["FamilyIn"]["kind"]>(props.treatment.steps.length > 1 ? "orders" : "sweep");
const step = ref(0);
const name = ref("strength");
const values = ref("");
const chosen = ref<string[]>([]);
const words = ref<string[]>([]);
const problem = ref("");

const names = computed(() => {
  const s = props.treatment.steps[step.value];
  return ["strength", "mode", ...(s?.settings?.map((x) => x.name) ?? [])];
});
const known = computed(() => props.releases(props.treatment.steps[step.value]?.tool ?? ""));
const told = computed<(string | number)[]>(() => {
  if (kind.value === "releases") return chosen.value;
  const parts = values.value
    .split(",")
    .map((v) => v.trim())
    .filter(Boolean);
  return parts.map((v) =>
    v !== "" && !Number.isNaN(Number(v)) && name.value !== "mode" ? Number(v) : v,
  );
});
const body = computed(() => ({
  treatment: props.treatment,
  kind: kind.value,
  step: step.value,
  name: name.value,
  values: told.value,
  dry: false,
}));

const HINTS = {
  sweep: "Give the values, separated by commas.",
  releases: "Choose two or more releases.",
};

async function look(): Promise<void> {
  const few = { sweep: 1, releases: 2, orders: 0, feeds: 0 }[kind.value] > told.value.length;
  if (few) {
    words.value = [];
    problem.value = kind.value === "sweep" || kind.value === "releases" ? HINTS[kind.value] : "";
    return;
  }
  try {
    const made = await preview(body.value);
    words.value = made.words;
    problem.value = "";
  } catch (error) {
    words.value = [];
    problem.value = error instanceof Error ? error.message : "";
  }
}
watch(body, () => void look(), { immediate: true, deep: true });

async function enter(): Promise<void> {
  if (await add(body.value)) emit("done");
}
const stepItems = computed(() =>
  props.treatment.steps.map((s, i) => ({ value: i, title: `${i + 1}, ${s.tool}` })),
);
</script>

<template>
  <div class="stack" role="group" aria-label="Series of settings">
    <div class="fields">
      <v-select v-model="kind" label="Series over" :items="KINDS" />
      <v-select
        v-if="(kind === 'sweep' || kind === 'releases') && treatment.steps.length > 1"
        v-model="step"
        label="Step"
        :items="stepItems"
      />
      <template v-if="kind === 'sweep'">
        <v-select v-model="name" label="Setting" :items="names" />
        <v-text-field
          v-model="values"
          class="number"
          label="Values"
          placeholder="25, 50, 75, 100"
        />
      </template>
    </div>
    <fieldset v-if="kind === 'releases'" class="row">
      <legend class="visually-hidden">Releases</legend>
      <v-checkbox v-for="r in known" :key="r" v-model="chosen" :value="r" :label="r" />
      <span v-if="known.length < 2" class="soft">This tool has fewer than two releases.</span>
    </fieldset>
    <p v-if="problem" class="soft" role="status">{{ problem }}</p>
    <ol v-else class="made pl-6 overflow-y-auto">
      <li v-for="w in words" :key="w">{{ w }}</li>
    </ol>
    <div class="row middle">
      <v-btn variant="flat" :loading="busy" :disabled="!words.length" @click="enter">
        Add {{ words.length ? counted(words.length, "contender") : "contenders" }}
      </v-btn>
      <TextAction @click="emit('cancel')">Cancel series</TextAction>
      <span class="soft">Contenders that the study already has are not added again.</span>
    </div>
  </div>
</template>

<style scoped>
.made {
  max-height: 190px;
}
</style>
