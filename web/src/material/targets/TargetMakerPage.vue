<script setup lang="ts">
// Put a target sheet together: its size and its fields, with a picture of it at every change.
import { ref, watch } from "vue";
import { useRouter } from "vue-router";

import { useFieldKinds } from "@/material/targets/queries";
import { useTargetChanges } from "@/material/mutations";
import { usePageTitle } from "@/shared/lib/useTitle";
import AddMenu from "@/shared/ui/AddMenu.vue";
import { useSheet } from "./useSheet";
import RecipeStepRow from "@/shared/ui/RecipeStepRow.vue";

const router = useRouter();
const { data: kinds } = useFieldKinds();
const { busy, paint } = useTargetChanges();
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

async function make(): Promise<void> {
  if (await paint({ name: name.value, sheet: draft.sheet.value })) await router.push("/targets");
}

const named = (text: string): true | string => !!text.trim() || "A target needs a name.";
const SIZES = [
  ["width", "Width"],
  ["height", "Height"],
  ["blur", "Gaussian blur of every edge"],
] as const;
const numbers = { width: draft.width, height: draft.height, blur: draft.blur };
usePageTitle("Add target");
</script>

<template>
  <div class="page">
    <div class="page-top">
      <h1><router-link to="/targets" class="plain-link crumb">Targets</router-link> Add target</h1>
    </div>
    <div style="--at-least: 420px" class="in-grid tiles gc-8">
      <section class="block">
        <v-text-field v-model="name" label="Name of the target" maxlength="100" :rules="[named]" />
        <div class="fields py-3">
          <NumberField
            v-for="[key, label] in SIZES"
            :key="key"
            :model-value="numbers[key].value"
            :label="label"
            suffix="px"
            @update:model-value="numbers[key].value = $event ?? numbers[key].value"
          />
        </div>
        <div class="block-head">
          <h2>Fields</h2>
          <AddMenu class="end" label="Add field" :kinds="kinds ?? []" @add="draft.add" />
        </div>
        <p v-if="!draft.fields.value.length" class="soft">No fields yet.</p>
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
      <section style="top: 0" class="block preview align-self-start position-sticky">
        <div class="block-head">
          <h2>Preview</h2>
          <span class="soft"
            >{{ draft.width.value }} × {{ draft.height.value }} px, shown smaller</span
          >
        </div>
        <p v-if="draft.problem.value" class="rowan" role="alert">{{ draft.problem.value }}</p>
        <img
          v-if="draft.shown.value"
          class="d-block w-100"
          :src="draft.shown.value"
          alt="The target as it will be painted"
        />
        <p class="soft">
          The four ring marks and the strip between the upper two identify the sheet. Keep them in
          the picture, and hold the sheet straight to within 10°.
        </p>
        <v-btn
          variant="flat"
          :loading="busy"
          :disabled="!name.trim() || !draft.fields.value.length || !!draft.problem.value"
          @click="make"
        >
          Paint target
        </v-btn>
      </section>
    </div>
  </div>
</template>
