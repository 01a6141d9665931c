<script setup lang="ts">
// One tool: its facts, prices and releases.
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";

import { api, ask, type Shape } from "../api/client";
import { useSession, useTools } from "../api/queries";
import { useAct } from "../composables/useAct";
import ConfirmDialog from "../parts/ConfirmDialog.vue";
import ReleaseForm from "../parts/ReleaseForm.vue";

type ToolIn = Shape["ToolIn"];
const props = defineProps<{ id?: number }>();
const router = useRouter();
const { data: tools } = useTools();
const { data: session } = useSession();
const { busy, act } = useAct();
const tool = computed(() => tools.value?.find((t) => t.id === props.id));
const builtIn = computed(() => tool.value?.releases.some((r) => r.method) ?? false);
const canEdit = computed(() => session.value?.role !== "viewer");
const KINDS = ["", "denoise", "sharpen", "enlarge", "develop", "several"] as const;
const LICENCES = ["", "free", "one-off", "subscription", "trial"] as const;
const PLATFORMS = ["Linux", "macOS", "Windows", "Android", "iOS", "web"] as const;
const WAYS = ["alone", "from another program", "command line", "web page"] as const;
const DISCLOSURES = ["", "bought", "lent", "given", "affiliate"] as const;
const adding = ref(false);
const asked = ref(false);

const blank = (): ToolIn => ({
  name: "", kind: "", maker: "", licence: "", platforms: [], ways: [], takes: "any", largest: null, batch: null, notes: "",
  disclosure: "", prices: [],
}); // prettier-ignore
const facts = ref<ToolIn>(blank());
watch(
  tool,
  (t) => {
    if (t) facts.value = JSON.parse(JSON.stringify({ ...blank(), ...t })) as ToolIn;
  },
  { immediate: true },
);

function addPrice(): void {
  const today = new Date().toISOString().slice(0, 10);
  facts.value.prices.push({ what: "licence", amount: "0.00", currency: "EUR", checked: today });
}

async function save(): Promise<void> {
  const body = { ...facts.value, largest: Number(facts.value.largest) || null };
  const id = props.id;
  const made = await act(
    () =>
      id
        ? ask(api.PUT("/api/tools/{tool_id}", { params: { path: { tool_id: id } }, body }))
        : ask(api.POST("/api/tools", { body })),
    "Facts saved.",
  );
  if (made && !id) await router.replace(`/tools/${made.id}`);
}

async function remove(): Promise<void> {
  const path = { tool_id: props.id ?? 0 };
  const name = tool.value?.name ?? "";
  const gone = await act(
    () => ask(api.DELETE("/api/tools/{tool_id}", { params: { path } })).then(() => true),
    `${name} removed.`,
  );
  if (gone) await router.push("/tools");
}
const batch = computed({
  get: () => (facts.value.batch === null ? "" : facts.value.batch ? "yes" : "no"),
  set: (told: string) => (facts.value.batch = told === "" ? null : told === "yes"),
});
</script>

<template>
  <div class="page">
    <p class="back"><router-link to="/tools">All tools</router-link></p>
    <p v-if="id && tools && !tool" class="rowan">There is no such tool, or it was removed.</p>
    <template v-else>
      <h1>{{ tool?.name ?? "New tool" }}</h1>
      <form class="block form" @submit.prevent="save">
        <div class="grid">
          <v-text-field v-model="facts.name" label="Name" maxlength="80" :readonly="!canEdit" />
          <v-text-field v-model="facts.maker" label="Maker, in words" maxlength="120" :readonly="!canEdit" />
        </div>
        <div class="grid four">
          <label
            ><span class="soft">Kind</span>
            <select v-model="facts.kind" class="quiet-select" :disabled="!canEdit">
              <option v-for="k in KINDS" :key="k" :value="k">{{ k || "not known" }}</option>
            </select></label
          >
          <label
            ><span class="soft">Licence</span>
            <select v-model="facts.licence" class="quiet-select" :disabled="!canEdit">
              <option v-for="k in LICENCES" :key="k" :value="k">{{ k || "not known" }}</option>
            </select></label
          >
          <label
            ><span class="soft">Takes</span>
            <select v-model="facts.takes" class="quiet-select" :disabled="!canEdit">
              <option value="any">any file</option>
              <option value="raw only">raw files only</option>
            </select></label
          >
          <label
            ><span class="soft">How we came by it</span>
            <select v-model="facts.disclosure" class="quiet-select" :disabled="!canEdit">
              <option v-for="k in DISCLOSURES" :key="k" :value="k">{{ k || "not told" }}</option>
            </select></label
          >
          <label
            ><span class="soft">Largest enlargement</span>
            <span
              ><input
                v-model="facts.largest"
                type="number"
                class="number-input"
                min="1"
                max="64"
                step="any"
                :disabled="!canEdit"
              />
              x</span
            ></label
          >
          <label
            ><span class="soft">Works through batches</span>
            <select v-model="batch" class="quiet-select" :disabled="!canEdit">
              <option value="">not known</option>
              <option>yes</option>
              <option>no</option>
            </select></label
          >
        </div>
        <fieldset
          v-for="[title, list, all] in [
            ['Platforms', 'platforms', PLATFORMS],
            ['Can be run', 'ways', WAYS],
          ] as const"
          :key="list"
          class="checks"
        >
          <legend class="soft">{{ title }}</legend>
          <label v-for="p in all" :key="p"
            ><input v-model="facts[list]" type="checkbox" :value="p" :disabled="!canEdit" /> {{ p }}</label
          >
        </fieldset>
        <fieldset class="prices">
          <legend class="soft">Prices, with the day they were checked</legend>
          <div v-for="(p, i) in facts.prices" :key="i" class="price">
            <input
              v-model="p.amount"
              class="number-input"
              inputmode="decimal"
              :aria-label="`Amount ${i + 1}`"
              :disabled="!canEdit"
            />
            <input
              v-model="p.currency"
              class="text-input three"
              maxlength="3"
              :aria-label="`Currency ${i + 1}`"
              :disabled="!canEdit"
            />
            <span>for</span>
            <input
              v-model="p.what"
              class="text-input"
              maxlength="60"
              :aria-label="`What price ${i + 1} is for`"
              :disabled="!canEdit"
            />
            <span>checked</span>
            <input
              v-model="p.checked"
              type="date"
              class="text-input"
              :aria-label="`Day ${i + 1}`"
              :disabled="!canEdit"
            />
            <button v-if="canEdit" type="button" class="link" @click="facts.prices.splice(i, 1)">
              Remove
            </button>
          </div>
          <button v-if="canEdit" type="button" class="link" @click="addPrice">Add a price</button>
        </fieldset>
        <v-textarea
          v-model="facts.notes"
          label="Own notes"
          rows="2"
          auto-grow
          maxlength="4000"
          :readonly="!canEdit"
        />
        <div v-if="canEdit" class="acts">
          <v-btn type="submit" variant="flat" :loading="busy" :disabled="!facts.name.trim()"
            >Save the facts</v-btn
          >
          <button v-if="tool && !tool.used" type="button" class="link" @click="asked = true">
            Remove the tool
          </button>
          <span v-else-if="tool" class="soft">It is part of treatments and stays with them.</span>
        </div>
      </form>
      <section v-if="tool" class="block">
        <div class="block-head">
          <h2>Releases</h2>
          <span v-if="builtIn" class="soft">A built-in method has one, and what it asks for is fixed.</span>
        </div>
        <p v-if="!tool.releases.length" class="soft">None is written down yet.</p>
        <ReleaseForm
          v-for="r in tool.releases"
          :key="r.id"
          :tool="tool"
          :release="r"
          :can-edit="canEdit && !builtIn"
          :is-owner="session?.role === 'owner'"
        />
        <ReleaseForm
          v-if="adding"
          :tool="tool"
          can-edit
          :is-owner="session?.role === 'owner'"
          @done="adding = false"
        />
        <v-btn v-else-if="canEdit && !builtIn" class="add" @click="adding = true">Write a release down</v-btn>
      </section>
      <ConfirmDialog
        v-model="asked"
        :title="`Remove ${tool?.name}?`"
        text="Its facts, prices and releases go with it. No treatment uses it."
        action="Remove it"
        @confirmed="remove"
      />
    </template>
  </div>
</template>

<style scoped>
.back {
  padding-top: 22px;
}
.form {
  display: grid;
  gap: 16px;
  max-width: 1000px;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
.four {
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
}
.grid > label {
  display: grid;
  gap: 3px;
  justify-items: start;
}
fieldset {
  border: 0;
  padding: 0;
}
.checks,
.price,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
}
.checks legend,
.prices legend {
  padding: 0 0 4px;
}
.prices {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.price {
  gap: 8px;
}
.three {
  width: 56px;
}
.add {
  margin-top: 14px;
}
</style>
