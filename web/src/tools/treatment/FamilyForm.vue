<script setup lang="ts">
// A whole family of contenders in one go; what it makes is shown before it is entered.
import { computed, ref, watch } from "vue";

import { api, ask, type Shape } from "@/api/client";
import type { Treatment } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";

const props = defineProps<{
  study: number;
  treatment: Treatment;
  releases: (tool: string) => string[];
}>();
const emit = defineEmits<{ done: []; cancel: [] }>();
const KINDS = [
  ["sweep", "One setting over values"],
  ["orders", "The steps in every order"],
  ["releases", "One release against others"],
  ["feeds", "On the original file and on the TIFF"],
] as const;
const { busy, act } = useAct();
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
  sweep: "Write the values, with commas between.",
  releases: "Choose two releases or more.",
};

async function look(): Promise<void> {
  const few = { sweep: 1, releases: 2, orders: 0, feeds: 0 }[kind.value] > told.value.length;
  if (few) {
    words.value = [];
    problem.value = kind.value === "sweep" || kind.value === "releases" ? HINTS[kind.value] : "";
    return;
  }
  const params = { path: { study_id: props.study } };
  try {
    const made = await ask(
      api.POST("/api/studies/{study_id}/families", { params, body: { ...body.value, dry: true } }),
    );
    words.value = made.words;
    problem.value = "";
  } catch (error) {
    words.value = [];
    problem.value = error instanceof Error ? error.message : "";
  }
}
watch(body, () => void look(), { immediate: true, deep: true });

async function enter(): Promise<void> {
  const params = { path: { study_id: props.study } };
  const made = await act(() =>
    ask(api.POST("/api/studies/{study_id}/families", { params, body: body.value })),
  );
  if (made) emit("done");
}
</script>

<template>
  <div class="family">
    <div class="line">
      <label>
        <span class="soft">Family</span>
        <select v-model="kind" class="quiet-select">
          <option v-for="[key, title] in KINDS" :key="key" :value="key">{{ title }}</option>
        </select>
      </label>
      <label v-if="(kind === 'sweep' || kind === 'releases') && treatment.steps.length > 1">
        <span class="soft">of step</span>
        <select v-model.number="step" class="quiet-select">
          <option v-for="(s, i) in treatment.steps" :key="i" :value="i">
            {{ i + 1 }}, {{ s.tool }}
          </option>
        </select>
      </label>
      <template v-if="kind === 'sweep'">
        <label>
          <span class="soft">setting</span>
          <select v-model="name" class="quiet-select">
            <option v-for="n in names" :key="n">{{ n }}</option>
          </select>
        </label>
        <label>
          <span class="soft">values</span>
          <input v-model="values" class="text-input" placeholder="25, 50, 75, 100" />
        </label>
      </template>
      <fieldset v-if="kind === 'releases'" class="line">
        <legend class="visually-hidden">Releases</legend>
        <label v-for="r in known" :key="r"
          ><input v-model="chosen" type="checkbox" :value="r" /> {{ r }}</label
        >
        <span v-if="known.length < 2" class="soft"
          >Fewer than two releases of this tool are written down.</span
        >
      </fieldset>
    </div>
    <p v-if="problem" class="soft" role="status">{{ problem }}</p>
    <ol v-else class="made">
      <li v-for="w in words" :key="w">{{ w }}</li>
    </ol>
    <div class="line">
      <v-btn variant="flat" :loading="busy" :disabled="!words.length" @click="enter">
        Enter {{ words.length ? counted(words.length, "contender") : "them" }}
      </v-btn>
      <button type="button" class="link" @click="emit('cancel')">Only this one</button>
      <span class="soft">Those that the study has already are not entered twice.</span>
    </div>
  </div>
</template>

<style scoped>
.family {
  display: grid;
  gap: 12px;
}
.line {
  display: flex;
  gap: 10px 24px;
  flex-wrap: wrap;
  align-items: center;
  border: 0;
  padding: 0;
}
.line label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.made {
  padding-left: 24px;
  max-height: 190px;
  overflow-y: auto;
}
</style>
