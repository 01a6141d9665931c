<script setup lang="ts">
// One release: its date and news, modes and settings with their types, and the program that runs
// it.
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import type { Release, SettingKind, Tool } from "@/api/types";
import { day } from "@/shared/lib/formats";
import { useDraft } from "@/shared/lib/useDraft";
import { useVersioned } from "@/shared/lib/useVersioned";
import TheirText from "@/shared/ui/TheirText.vue";
import DateField from "@/shared/ui/DateField.vue";
import ListField from "@/shared/ui/ListField.vue";

import { useToolChanges } from "./mutations";
import CommandForm from "./CommandForm.vue";

type ReleaseIn = Shape["ReleaseIn"];
const props = defineProps<{ tool: Tool; release?: Release; canEdit: boolean; isOwner: boolean }>();
const emit = defineEmits<{ done: [] }>();
const editing = ref(!props.release);
const KINDS = ["number", "choice", "switch", "text"] as const;
const BOUNDS = [
  ["low", "From"],
  ["high", "To"],
  ["usual", "Usual"],
] as const;
const blank = (): ReleaseIn => ({
  name: "",
  released: null,
  news: "",
  modes: [],
  raw_modes: [],
  strength: true,
  settings: [],
});
const {
  draft: facts,
  tag,
  follow,
} = useDraft<ReleaseIn>(
  `release-${props.release?.id ?? `of-${props.tool.id}`}`,
  blank,
  () => props.release,
);
const { theirs, headers, guarded } = useVersioned<ReleaseIn>(tag);
const changes = useToolChanges(headers, guarded);
function addSetting(): void {
  facts.value.settings.push({
    kind: "number",
    name: "",
    title: "",
    unit: "",
    low: 0,
    high: 100,
    whole: false,
    among: [],
    usual: 50,
  });
}

async function save(): Promise<void> {
  const body = { ...facts.value, released: facts.value.released ?? null };
  if (!(await changes.saveRelease(props.tool.id, props.release, body))) return;
  editing.value = false;
  emit("done");
}

const theirLines = computed(() => {
  const other = theirs.value;
  if (!other) return [];
  return [
    { label: "Number and date", text: `${other.name} ${other.released ?? ""}` },
    { label: "News", text: other.news },
    { label: "Modes", text: other.modes.join(", ") },
    { label: "Settings", text: other.settings.map(settingWords).join(", ") },
  ];
});

function takeTheirs(): void {
  theirs.value = null;
  follow();
}

const settingWords = (s: SettingKind): string => {
  const bounds =
    s.kind === "number" ? `${s.low} to ${s.high} ${s.unit}` : (s.among ?? []).join(", ");
  return [`${s.title || s.name}`, bounds.trim() ? `(${bounds.trim()})` : ""].join(" ").trim();
};
const summary = computed(() => {
  const r = props.release;
  if (!r) return [];
  return [
    r.modes.length ? `modes ${r.modes.join(", ")}` : "",
    r.raw_modes.length ? `${r.raw_modes.join(", ")} for raw files only` : "",
    r.strength ? "has strength" : "no strength",
    r.settings.length ? `settings ${r.settings.map(settingWords).join(", ")}` : "",
    r.method ? "built in" : r.command ? `runs ${r.command.program}` : "run by hand",
  ].filter(Boolean);
});
const title = computed(() => `${props.tool.name} ${props.release?.name ?? ""}`.trim());
</script>

<template>
  <article class="release stack hair-below py-3 ga-2">
    <div class="row">
      <h3>{{ release ? release.name || "without a number" : "Add release" }}</h3>
      <span v-if="release?.released" class="soft">{{ day(release.released) }}</span>
      <TextAction
        v-if="release && canEdit"
        class="end"
        :aria-label="`${editing ? 'Close' : 'Edit'} ${title}`"
        @click="editing = !editing"
      >
        {{ editing ? "Close" : "Edit" }}
      </TextAction>
    </div>
    <p v-if="release?.news">{{ release.news }}</p>
    <p v-if="release && !editing" class="soft">{{ summary.join("; ") }}</p>
    <v-form v-if="editing && canEdit" class="stack" @submit.prevent="save">
      <div class="fields">
        <v-text-field v-model="facts.name" label="Number" maxlength="40" />
        <DateField
          :model-value="facts.released ?? null"
          label="Date"
          @update:model-value="facts.released = $event"
        />
        <v-text-field v-model="facts.news" class="wide" label="News" maxlength="2000" />
      </div>
      <div class="fields">
        <ListField v-model="facts.modes" label="Modes" />
        <ListField v-model="facts.raw_modes" label="Modes for raw files only" />
        <v-checkbox v-model="facts.strength" class="pt-5" label="Has strength" />
      </div>
      <fieldset
        v-for="(s, i) in facts.settings"
        :key="i"
        style="--at-least: 112px"
        class="setting in-grid ga-2 align-end tiles"
      >
        <legend class="soft small">Setting {{ i + 1 }}</legend>
        <v-text-field v-model="s.name" label="Name" maxlength="60" />
        <v-select v-model="s.kind" label="Type" :items="KINDS" />
        <template v-if="s.kind === 'number'">
          <NumberField
            v-for="[key, label] in BOUNDS"
            :key="key"
            :model-value="s[key] as never"
            :label="label"
            @update:model-value="s[key] = $event as never"
          />
          <v-text-field v-model="s.unit" label="Unit" maxlength="20" />
        </template>
        <ListField
          v-else-if="s.kind === 'choice'"
          class="wide"
          label="Choices"
          :model-value="s.among ?? []"
          @update:model-value="
            s.among = $event;
            s.usual = $event[0] ?? '';
          "
        />
        <TextAction :aria-label="`Remove setting ${i + 1}`" @click="facts.settings.splice(i, 1)"
          >Remove</TextAction
        >
      </fieldset>
      <TheirText v-if="theirs" :lines="theirLines" @take="takeTheirs" @keep="save" />
      <div class="row middle">
        <v-btn type="submit" variant="flat" :loading="changes.busy.value">Save</v-btn>
        <TextAction @click="addSetting">Add setting</TextAction>
        <TextAction v-if="!release" @click="emit('done')">Cancel</TextAction>
        <TextAction v-else @click="changes.removeRelease(release)">Remove release</TextAction>
      </div>
    </v-form>
    <CommandForm v-if="editing && release && isOwner && canEdit" :release="release" />
  </article>
</template>

<style scoped>
.wide {
  grid-column: span 2;
}
</style>
