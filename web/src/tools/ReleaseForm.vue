<script setup lang="ts">
// One release: its date and news, modes and settings with their types, and the program that runs it.
import { computed, ref } from "vue";

import { api, ask, type Shape } from "@/api/client";
import { type Release, type SettingKind, type Tool } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useDraft } from "@/shared/lib/useDraft";
import { useVersioned } from "@/shared/lib/useVersioned";
import TheirText from "@/shared/ui/TheirText.vue";
import CommandForm from "./CommandForm.vue";

type ReleaseIn = Shape["ReleaseIn"];
const props = defineProps<{ tool: Tool; release?: Release; canEdit: boolean; isOwner: boolean }>();
const emit = defineEmits<{ done: [] }>();
const { busy, act } = useAct();
const editing = ref(!props.release);
const KINDS = ["number", "choice", "switch", "text"] as const;
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
const list = (text: string): string[] =>
  text
    .split(",")
    .map((w) => w.trim())
    .filter(Boolean);

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
  const r = props.release;
  const made = await act(
    () =>
      guarded(() =>
        r
          ? ask(
              api.PUT("/api/releases/{release_id}", {
                params: { path: { release_id: r.id } },
                body,
                headers: headers(),
              }),
            )
          : ask(
              api.POST("/api/tools/{tool_id}/releases", {
                params: { path: { tool_id: props.tool.id } },
                body,
              }),
            ),
      ),
    "Release saved. Outputs made before keep what they were made with.",
  );
  if (!made) return;
  editing.value = false;
  emit("done");
}

const theirLines = computed(() => {
  const other = theirs.value;
  if (!other) return [];
  return [
    { label: "Number and date", text: `${other.name} ${other.released ?? ""}` },
    { label: "What is said to be new", text: other.news },
    { label: "Modes", text: other.modes.join(", ") },
    { label: "Settings", text: other.settings.map(settingWords).join(", ") },
  ];
});

function takeTheirs(): void {
  theirs.value = null;
  follow();
}

function remove(): void {
  if (!props.release) return;
  const params = { path: { release_id: props.release.id } };
  void act(() => ask(api.DELETE("/api/releases/{release_id}", { params })));
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
    r.strength ? "has a strength" : "no strength",
    r.settings.length ? `settings ${r.settings.map(settingWords).join(", ")}` : "",
    r.method ? "built in" : r.command ? `run by ${r.command.program}` : "run by hand",
  ].filter(Boolean);
});
const title = computed(() => `${props.tool.name} ${props.release?.name ?? ""}`.trim());
</script>

<template>
  <article class="release">
    <div class="head">
      <h3>{{ release ? release.name || "without a number" : "New release" }}</h3>
      <span v-if="release?.released" class="soft">{{
        new Date(release.released).toLocaleDateString("en-GB", {
          day: "numeric",
          month: "long",
          year: "numeric",
        })
      }}</span>
      <button
        v-if="release && canEdit"
        type="button"
        class="link end"
        :aria-label="`${editing ? 'Close' : 'Edit'} ${title}`"
        @click="editing = !editing"
      >
        {{ editing ? "Close" : "Edit" }}
      </button>
    </div>
    <p v-if="release?.news">{{ release.news }}</p>
    <p v-if="release && !editing" class="soft">{{ summary.join("; ") }}</p>
    <form v-if="editing && canEdit" class="form" @submit.prevent="save">
      <div class="line">
        <label>Number <input v-model="facts.name" class="text-input" maxlength="40" /></label>
        <label>Date <input v-model="facts.released" type="date" class="text-input" /></label>
        <label class="wide"
          >What is said to be new
          <input v-model="facts.news" class="text-input grow" maxlength="2000"
        /></label>
      </div>
      <div class="line">
        <label class="wide"
          >Modes
          <input
            class="text-input grow"
            placeholder="with commas between"
            :value="facts.modes.join(', ')"
            @change="facts.modes = list(($event.target as HTMLInputElement).value)"
        /></label>
        <label class="wide"
          >of these, for raw files only
          <input
            class="text-input grow"
            :value="facts.raw_modes.join(', ')"
            @change="facts.raw_modes = list(($event.target as HTMLInputElement).value)"
        /></label>
        <label><input v-model="facts.strength" type="checkbox" /> has a strength</label>
      </div>
      <div v-for="(s, i) in facts.settings" :key="i" class="line setting">
        <input
          v-model="s.name"
          class="text-input"
          placeholder="setting"
          :aria-label="`Name of setting ${i + 1}`"
          maxlength="60"
        />
        <select v-model="s.kind" class="quiet-select" :aria-label="`Type of setting ${i + 1}`">
          <option v-for="k in KINDS" :key="k">{{ k }}</option>
        </select>
        <template v-if="s.kind === 'number'">
          <label
            >from <input v-model.number="s.low" type="number" step="any" class="number-input few"
          /></label>
          <label
            >to <input v-model.number="s.high" type="number" step="any" class="number-input few"
          /></label>
          <label
            >usually
            <input v-model.number="s.usual" type="number" step="any" class="number-input few"
          /></label>
          <label>unit <input v-model="s.unit" class="text-input unit" maxlength="20" /></label>
        </template>
        <label v-else-if="s.kind === 'choice'" class="wide"
          >among
          <input
            class="text-input grow"
            :value="s.among?.join(', ')"
            @change="
              ((s.among = list(($event.target as HTMLInputElement).value)),
              (s.usual = s.among[0] ?? ''))
            "
        /></label>
        <button type="button" class="link" @click="facts.settings.splice(i, 1)">Remove</button>
      </div>
      <TheirText v-if="theirs" :lines="theirLines" @take="takeTheirs" @keep="save" />
      <div class="line">
        <v-btn type="submit" variant="flat" :loading="busy">Save the release</v-btn>
        <button type="button" class="link" @click="addSetting">Add a setting</button>
        <button v-if="!release" type="button" class="link" @click="emit('done')">Cancel</button>
        <button v-else type="button" class="link" @click="remove">Remove the release</button>
      </div>
    </form>
    <CommandForm v-if="editing && release && isOwner && canEdit" :release="release" />
  </article>
</template>

<style scoped>
.release {
  border-bottom: 1px solid var(--hair);
  padding: 12px 0;
  display: grid;
  gap: 6px;
}
.head,
.line {
  display: flex;
  gap: 8px 18px;
  flex-wrap: wrap;
  align-items: baseline;
}
.head .end {
  margin-left: auto;
}
.form {
  display: grid;
  gap: 10px;
  padding-top: 6px;
}
.wide {
  flex: 1 1 260px;
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.grow {
  flex: 1;
  min-width: 0;
}
.few {
  width: 82px;
}
.unit {
  width: 82px;
}
</style>
