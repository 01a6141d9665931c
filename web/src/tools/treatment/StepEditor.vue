<script setup lang="ts">
// One step of a treatment: tool or method, release, mode, strength, settings, limit.
import { computed } from "vue";

import type { Setting, Step } from "@/api/queries";
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

function strength(text: string): void {
  step.value.strength = text === "" ? null : Math.min(100, Math.max(0, Number(text)));
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
  ["x", "from the left"],
  ["y", "from the top"],
  ["w", "wide"],
  ["h", "high"],
] as const;
const wholeOrPart = (part: boolean): void => {
  step.value.part = part ? { x: 25, y: 25, w: 50, h: 50 } : null;
};
const number = computed(() => `Step ${props.at + 1}`);
</script>

<template>
  <fieldset class="step">
    <legend>{{ alone ? "What is done" : number }}</legend>
    <div class="line">
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
    <div v-if="step.tool" class="settings">
      <div v-if="draft.hasStrength(step)" class="strength">
        <label>
          <span>Strength</span>
          <input
            type="number"
            class="number-input"
            min="0"
            max="100"
            aria-label="Strength in per cent"
            :value="step.strength"
            :placeholder="method ? '100' : 'not told'"
            @input="strength(($event.target as HTMLInputElement).value)"
          />
          <span class="soft">%</span>
        </label>
        <label v-if="!method" class="soft">
          <input v-model="step.automatic" type="checkbox" /> everything automatic
        </label>
      </div>
      <SettingField
        v-for="k in kinds"
        :key="k.name"
        :kind="k"
        :model-value="settingOf(k.name)"
        @update:model-value="(to) => set(k.name, to)"
      />
      <template v-if="free">
        <div v-for="(s, i) in step.settings" :key="i" class="free">
          <input
            v-model="s.name"
            class="text-input"
            placeholder="setting"
            :aria-label="`Name of setting ${i + 1}`"
          />
          <input
            v-model="s.value"
            class="text-input"
            placeholder="value"
            :aria-label="`Value of setting ${i + 1}`"
          />
          <input
            v-model="s.unit"
            class="text-input unit"
            placeholder="unit"
            :aria-label="`Unit of setting ${i + 1}`"
          />
          <label class="soft"><input v-model="s.automatic" type="checkbox" /> automatic</label>
          <button type="button" class="link" @click="step.settings.splice(i, 1)">Remove</button>
        </div>
        <button type="button" class="link add" @click="addFree">Add a setting</button>
      </template>
    </div>
    <div class="line last">
      <label v-if="!method && step.tool" class="limit">
        <span class="soft">Limited to</span>
        <input
          v-model="step.limit"
          class="text-input"
          placeholder="the whole picture"
          maxlength="120"
        />
      </label>
      <span v-if="partly" class="limit">
        <label class="soft"
          ><input
            type="checkbox"
            :checked="step.part !== null"
            @change="wholeOrPart(($event.target as HTMLInputElement).checked)"
          />
          only on a part of the picture</label
        >
        <template v-if="step.part">
          <label v-for="[side, words] in SIDES" :key="side" class="soft"
            ><input
              v-model.number="step.part[side]"
              type="number"
              class="number-input side"
              min="0"
              max="100"
              step="any"
            />
            % {{ words }}</label
          >
        </template>
      </span>
      <span class="acts">
        <template v-if="!alone">
          <button
            type="button"
            class="link"
            :aria-label="`${number} earlier`"
            :disabled="at === 0"
            @click="emit('move', -1)"
          >
            Earlier
          </button>
          <button
            type="button"
            class="link"
            :aria-label="`${number} later`"
            @click="emit('move', 1)"
          >
            Later
          </button>
        </template>
        <button
          type="button"
          class="link"
          :aria-label="`Duplicate ${number}`"
          @click="emit('copy')"
        >
          Duplicate
        </button>
        <button
          v-if="!alone"
          type="button"
          class="link"
          :aria-label="`Remove ${number}`"
          @click="emit('remove')"
        >
          Remove
        </button>
      </span>
    </div>
  </fieldset>
</template>

<style scoped>
.step {
  border: 0;
  border-left: 2px solid var(--rule);
  padding: 0 0 4px 16px;
  display: grid;
  gap: 12px;
}
legend {
  font-weight: 600;
  padding: 0 0 6px;
  margin-left: 0;
}
.line {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
  align-items: center;
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
.settings {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(390px, 1fr));
  gap: 10px 36px;
}
.strength {
  display: flex;
  gap: 18px;
  align-items: center;
}
.strength label,
.limit,
.free {
  display: flex;
  gap: 8px;
  align-items: center;
}
.strength label > span:first-child {
  min-width: 96px;
}
.strength .soft {
  white-space: nowrap;
  font-size: 12.5px;
}
.free {
  grid-column: 1 / -1;
}
.unit {
  width: 76px;
}
.side {
  width: 58px;
}
.add {
  justify-self: start;
}
.last {
  justify-content: space-between;
}
.acts {
  display: flex;
  gap: 16px;
  margin-left: auto;
}
</style>
