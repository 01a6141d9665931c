<script setup lang="ts">
// One step of a treatment: tool or method, release, mode, strength, settings, limit.
import { computed } from "vue";

import type { Setting, Step } from "@/api/types";
import type { TreatmentDraft } from "./useTreatment";
import SettingField from "./SettingField.vue";

const props = defineProps<{ draft: TreatmentDraft; at: number; alone: boolean }>();
const emit = defineEmits<{ move: [by: number]; copy: []; remove: [] }>();
const step = defineModel<Step>({ required: true });

const draft = props.draft;
const items = computed(() => [
  ...draft.programs.value,
  ...(draft.methods.value ?? []).map((m) => m.title),
]);
const method = computed(() => draft.methods.value?.find((m) => m.id === step.value.method));
const kinds = computed(() => draft.kindsOf(step.value));
const releases = computed(() =>
  draft
    .releasesOf(step.value.tool)
    .map((r) => r.name)
    .filter(Boolean),
);
const modes = computed(() => draft.releaseOf(step.value)?.modes ?? []);
const settingOf = (name: string): Setting =>
  step.value.settings.find((s) => s.name === name) ?? {
    name,
    value: null,
    unit: "",
    automatic: true,
  };

function set(name: string, to: Setting): void {
  step.value.settings = step.value.settings.map((s) => (s.name === name ? to : s));
}

function release(name: string | null): void {
  step.value.release = name ?? "";
  draft.follow(step.value);
}

const free = computed(() => !kinds.value.length && !step.value.method && step.value.tool);
const addFree = (): void => {
  step.value.settings = [
    ...step.value.settings,
    { name: "", value: "", unit: "", automatic: false },
  ];
};
const partly = computed(() => method.value && !method.value.resizes);
const SIDES = [
  ["x", "From the left"],
  ["y", "From the top"],
  ["w", "Width"],
  ["h", "Height"],
] as const;
const wholeOrPart = (part: boolean): void => {
  step.value.part = part ? { x: 25, y: 25, w: 50, h: 50 } : null;
};
const number = computed(() => `Step ${props.at + 1}`);
</script>

<template>
  <fieldset class="step stack">
    <legend class="strong">{{ alone ? "Step" : number }}</legend>
    <div class="line d-flex ga-2 flex-wrap align-end">
      <v-combobox
        :model-value="step.tool"
        :items="items"
        label="Tool or method"
        class="wide"
        @update:model-value="(name: string | null) => draft.choose(step, name ?? '')"
      />
      <template v-if="!method">
        <v-combobox
          :model-value="step.release"
          :items="releases"
          label="Release"
          class="narrow"
          @update:model-value="release"
        />
        <v-combobox
          :model-value="step.mode"
          :items="modes"
          label="Mode"
          class="narrow"
          @update:model-value="(mode: string | null) => (step.mode = mode ?? '')"
        />
      </template>
      <p v-else class="soft does">{{ method.does }} ({{ method.published }})</p>
    </div>
    <div v-if="step.tool" style="--at-least: 230px" class="settings in-grid gr-2 gc-6 tiles">
      <div
        v-if="draft.hasStrength(step)"
        style="--columns: minmax(0, 1fr) auto"
        class="strength in-grid ga-2 columns"
      >
        <NumberField
          v-model="step.strength"
          label="Strength"
          suffix="%"
          :min="0"
          :max="100"
          :placeholder="method ? '100' : 'not stated'"
        />
        <v-checkbox v-if="!method" v-model="step.automatic" class="pt-5" label="All automatic" />
      </div>
      <SettingField
        v-for="k in kinds"
        :key="k.name"
        :kind="k"
        :model-value="settingOf(k.name)"
        @update:model-value="(to) => set(k.name, to)"
      />
    </div>
    <template v-if="free">
      <div v-for="(s, i) in step.settings" :key="i" class="line d-flex ga-2 flex-wrap align-end">
        <v-text-field v-model="s.name" label="Setting" :aria-label="`Name of setting ${i + 1}`" />
        <v-text-field
          :model-value="s.value as never"
          label="Value"
          :aria-label="`Value of setting ${i + 1}`"
          @update:model-value="s.value = $event as never"
        />
        <v-text-field v-model="s.unit" label="Unit" :aria-label="`Unit of setting ${i + 1}`" />
        <v-checkbox v-model="s.automatic" class="pt-5" label="Auto" />
        <TextAction :aria-label="`Remove setting ${i + 1}`" @click="step.settings.splice(i, 1)"
          >Remove</TextAction
        >
      </div>
      <p><TextAction @click="addFree">Add setting</TextAction></p>
    </template>
    <div class="line d-flex ga-2 flex-wrap align-end">
      <v-text-field
        v-if="!method && step.tool"
        v-model="step.limit"
        class="wide"
        label="Applied to part of the picture"
        placeholder="the whole picture"
        maxlength="120"
      />
      <template v-if="partly">
        <v-checkbox
          :model-value="step.part !== null"
          label="Apply to part of the picture"
          @update:model-value="wholeOrPart($event === true)"
        />
        <template v-if="step.part">
          <NumberField
            v-for="[side, label] in SIDES"
            :key="side"
            v-model="step.part[side]"
            class="side"
            :label="label"
            suffix="%"
            :min="0"
            :max="100"
          />
        </template>
      </template>
      <span class="row end">
        <template v-if="!alone">
          <TextAction
            :aria-label="`Move ${number} up`"
            :disabled="at === 0"
            @click="emit('move', -1)"
          >
            Move up
          </TextAction>
          <TextAction :aria-label="`Move ${number} down`" @click="emit('move', 1)">
            Move down
          </TextAction>
        </template>
        <TextAction :aria-label="`Duplicate ${number}`" @click="emit('copy')">
          Duplicate
        </TextAction>
        <TextAction v-if="!alone" :aria-label="`Remove ${number}`" @click="emit('remove')">
          Remove
        </TextAction>
      </span>
    </div>
  </fieldset>
</template>

<style scoped>
.step {
  border-left: 2px solid var(--rule);
  padding: 0 0 4px 16px;
}
.wide {
  flex: 2 1 220px;
}
.narrow {
  flex: 1 1 130px;
}
.does {
  flex: 3 1 240px;
}
.side {
  flex: 0 1 120px;
}
</style>
