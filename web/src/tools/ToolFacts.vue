<script setup lang="ts">
// A tool's facts: what it is, costs, runs on and takes.
import type { Shape } from "@/api/client";
import DateField from "@/shared/ui/DateField.vue";

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
const titled = (words: readonly string[], none: string) =>
  words.map((w) => ({ value: w, title: w || none }));
const choices = [
  { key: "kind", label: "Kind", items: titled(KINDS, "not stated") },
  { key: "licence", label: "Licence", items: titled(LICENCES, "not stated") },
  {
    key: "takes",
    label: "Accepts",
    items: [
      { value: "any", title: "any file" },
      { value: "raw only", title: "raw files only" },
    ],
  },
  { key: "disclosure", label: "How we got it", items: titled(DISCLOSURES, "not stated") },
] as const;
const BATCH = [
  { value: null, title: "not stated" },
  { value: true, title: "yes" },
  { value: false, title: "no" },
];
const LISTS = [
  ["Platforms", "platforms", PLATFORMS],
  ["Ways to run it", "ways", WAYS],
] as const;
const named = (text: string): true | string => !!text.trim() || "A tool needs a name.";
</script>

<template>
  <v-form class="stack facts pt-4" @submit.prevent="emit('save')">
    <div class="fields">
      <v-text-field
        v-model="facts.name"
        label="Name"
        maxlength="80"
        :readonly="!canEdit"
        :rules="[named]"
        validate-on="blur"
      />
      <v-text-field v-model="facts.maker" label="Maker" maxlength="120" :readonly="!canEdit" />
    </div>
    <div class="fields">
      <v-select
        v-for="c in choices"
        :key="c.key"
        v-model="facts[c.key]"
        :label="c.label"
        :items="c.items"
        :readonly="!canEdit"
      />
      <NumberField
        :model-value="facts.largest ?? null"
        label="Largest enlargement"
        suffix="×"
        :readonly="!canEdit"
        @update:model-value="facts.largest = $event"
      />
      <v-select
        :model-value="facts.batch as never"
        label="Batch processing"
        :items="BATCH as never"
        :readonly="!canEdit"
        @update:model-value="facts.batch = $event as never"
      />
    </div>
    <fieldset v-for="[title, list, all] in LISTS" :key="list">
      <legend class="soft small">{{ title }}</legend>
      <div class="row">
        <v-checkbox
          v-for="p in all"
          :key="p"
          v-model="facts[list]"
          :value="p"
          :label="p"
          :readonly="!canEdit"
        />
      </div>
    </fieldset>
    <fieldset class="stack">
      <legend class="soft small">Prices, with the day each was checked</legend>
      <div
        v-for="(p, i) in facts.prices"
        :key="i"
        style="--columns: 110px 90px minmax(140px, 1fr) 170px auto"
        class="in-grid ga-2 align-end columns folds"
      >
        <v-text-field
          v-model="p.amount"
          class="number"
          inputmode="decimal"
          label="Amount"
          :readonly="!canEdit"
        />
        <v-text-field v-model="p.currency" maxlength="3" label="Currency" :readonly="!canEdit" />
        <v-text-field v-model="p.what" maxlength="60" label="For" :readonly="!canEdit" />
        <DateField v-model="p.checked" label="Checked" :disabled="!canEdit" />
        <TextAction
          v-if="canEdit"
          :aria-label="`Remove price ${i + 1}`"
          @click="facts.prices.splice(i, 1)"
          >Remove</TextAction
        >
      </div>
      <p v-if="canEdit"><TextAction @click="addPrice">Add price</TextAction></p>
    </fieldset>
    <v-textarea
      v-model="facts.notes"
      label="Notes"
      rows="2"
      maxlength="4000"
      :readonly="!canEdit"
    />
    <slot name="above" />
    <div v-if="canEdit" class="row middle">
      <v-btn type="submit" variant="flat" :loading="busy" :disabled="!facts.name.trim()"
        >Save</v-btn
      >
      <slot />
    </div>
  </v-form>
</template>
