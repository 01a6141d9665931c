<script setup lang="ts">
// Put a target sheet together: its size and its fields, with a picture of it at every change.
import { ref, watch } from "vue";
import { useRouter } from "vue-router";

import { api, ask } from "@/api/client";
import { useFieldKinds } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useSheet } from "./useSheet";
import RecipeStepRow from "@/shared/ui/RecipeStepRow.vue";

const router = useRouter();
const { data: kinds } = useFieldKinds();
const { busy, act } = useAct();
const name = ref("");
const draft = useSheet(() => kinds.value ?? []);
const kindOf = (id: string) => kinds.value?.find((k) => k.id === id);

// A sheet with one field of each kind is a good start, and shows what there is.
watch(
  kinds,
  (now) => {
    if (now && !draft.fields.value.length) for (const k of now) draft.add(k.id);
  },
  { immediate: true },
);

function add(event: Event): void {
  const select = event.target as HTMLSelectElement;
  draft.add(select.value);
  select.value = "";
}

async function make(): Promise<void> {
  const body = { name: name.value, sheet: draft.sheet.value };
  const made = await act(
    () => ask(api.POST("/api/targets", { body })),
    `${name.value} is being painted.`,
  );
  if (made) await router.push("/targets");
}
</script>

<template>
  <div class="page">
    <p class="back"><router-link to="/targets">Targets</router-link></p>
    <h1>Make a target</h1>
    <div class="columns">
      <section class="block">
        <v-text-field v-model="name" label="Name of the target" maxlength="100" />
        <div class="size">
          <label>
            <span class="soft">width</span>
            <input
              v-model.number="draft.width.value"
              type="number"
              min="400"
              max="12000"
              step="1"
            />
            <span class="soft">px</span>
          </label>
          <label>
            <span class="soft">height</span>
            <input
              v-model.number="draft.height.value"
              type="number"
              min="400"
              max="12000"
              step="1"
            />
            <span class="soft">px</span>
          </label>
          <label>
            <span class="soft">every edge under a Gaussian of</span>
            <input v-model.number="draft.blur.value" type="number" min="0.3" max="5" step="0.1" />
            <span class="soft">px</span>
          </label>
        </div>
        <div class="block-head fields">
          <h2>Fields</h2>
          <label class="end">
            <span class="visually-hidden">Add a field</span>
            <select class="quiet-select" @change="add">
              <option value="">Add a field</option>
              <option v-for="k in kinds" :key="k.id" :value="k.id">{{ k.title }}</option>
            </select>
          </label>
        </div>
        <p v-if="!draft.fields.value.length" class="soft">No field yet.</p>
        <template v-for="(field, i) in draft.fields.value" :key="i">
          <RecipeStepRow
            v-if="kindOf(field.kind)"
            v-model="draft.fields.value[i]!"
            :kind="kindOf(field.kind)!"
            :number="i + 1"
            :first="i === 0"
            :last="i === draft.fields.value.length - 1"
            @move="(by) => draft.move(i, by)"
            @remove="draft.fields.value.splice(i, 1)"
          />
        </template>
      </section>
      <section class="block preview">
        <div class="block-head">
          <h2>What it will be</h2>
          <span class="soft"
            >{{ draft.width.value }} x {{ draft.height.value }} px, a smaller likeness here</span
          >
        </div>
        <p v-if="draft.problem.value" class="rowan" role="alert">{{ draft.problem.value }}</p>
        <img
          v-if="draft.shown.value"
          :src="draft.shown.value"
          alt="The target as it will be painted"
        />
        <p class="soft">
          The four ring marks and the strip between the upper two tell the sheet from all others.
          Keep them in the picture, and hold the sheet straight to within ten degrees.
        </p>
        <p v-if="!name.trim() && draft.fields.value.length" class="soft">
          Give it a name, then paint it.
        </p>
        <v-btn
          variant="flat"
          :loading="busy"
          :disabled="!name.trim() || !draft.fields.value.length || !!draft.problem.value"
          @click="make"
        >
          Paint it
        </v-btn>
      </section>
    </div>
  </div>
</template>

<style scoped>
.back {
  padding-top: 16px;
}
h1 {
  margin: 6px 0 4px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(420px, 1fr) minmax(420px, 720px);
  gap: 0 40px;
}
.size {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  padding: 14px 0;
}
.size label {
  display: inline-flex;
  gap: 7px;
  align-items: baseline;
}
.size input {
  font: 12.5px var(--mono);
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  padding: 4px 7px;
  width: 84px;
}
.preview {
  align-self: start;
  position: sticky;
  top: 0;
}
.preview img {
  display: block;
  width: 100%;
}
.preview > p {
  margin: 10px 0;
}
.fields {
  border-top: 1px solid var(--ink);
  padding-top: 10px;
  margin-bottom: 0;
}
</style>
