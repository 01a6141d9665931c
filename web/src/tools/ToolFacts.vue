<script setup lang="ts">
// A tool's facts: what it is, costs, runs on and takes.
import { computed } from "vue";

import type { Shape } from "@/api/client";

type ToolIn = Shape["ToolIn"];
const facts = defineModel<ToolIn>({ required: true });
defineProps<{ canEdit: boolean; busy: boolean }>();
const emit = defineEmits<{ save: [] }>();
const KINDS = ["", "denoise", "sharpen", "enlarge", "develop", "several"] as const;
const LICENCES = ["", "free", "one-off", "subscription", "trial"] as const;
const PLATFORMS = ["Linux", "macOS", "Windows", "Android", "iOS", "web"] as const;
const WAYS = ["alone", "from another program", "command line", "web page"] as const;
const DISCLOSURES = ["", "bought", "lent", "given", "affiliate"] as const;

function addPrice(): void {
  const today = new Date().toISOString().slice(0, 10);
  facts.value.prices.push({ what: "licence", amount: "0.00", currency: "EUR", checked: today });
}
const batch = computed({
  get: () => (facts.value.batch === null ? "" : facts.value.batch ? "yes" : "no"),
  set: (word: string) => (facts.value.batch = word === "" ? null : word === "yes"),
});
</script>

<template>
  <form class="block form" @submit.prevent="emit('save')">
    <div class="grid">
      <v-text-field v-model="facts.name" label="Name" maxlength="80" :readonly="!canEdit" />
      <v-text-field
        v-model="facts.maker"
        label="Maker, in words"
        maxlength="120"
        :readonly="!canEdit"
      />
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
        ><input v-model="facts[list]" type="checkbox" :value="p" :disabled="!canEdit" />
        {{ p }}</label
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
    <slot name="above" />
    <div v-if="canEdit" class="acts">
      <v-btn type="submit" variant="flat" :loading="busy" :disabled="!facts.name.trim()"
        >Save the facts</v-btn
      >
      <slot />
    </div>
  </form>
</template>

<style scoped>
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
</style>
