<script setup lang="ts">
// Tools side by side by their facts, and the methods that anybody has.
import { computed, ref } from "vue";

import { useComparison, useMethods, useTools } from "@/tools/queries";
import { useSession } from "@/api/session";
import { usePreference } from "@/shared/lib/usePreference";
import { usePageTitle } from "@/shared/lib/useTitle";
import { counted } from "@/shared/lib/words";

const { data: tools, error } = useTools();
const { data: methods } = useMethods();
const { data: session } = useSession();
const canEdit = computed(() => session.value?.role !== "viewer");
const programs = computed(() =>
  (tools.value ?? []).filter((t) => !t.releases.some((r) => r.method)),
);
const left = ref<number[]>([]);
const chosen = computed(() =>
  programs.value.map((t) => t.id).filter((id) => !left.value.includes(id)),
);
const { data: table } = useComparison(chosen);
usePageTitle("Tools");

function toggle(id: number): void {
  left.value = left.value.includes(id) ? left.value.filter((x) => x !== id) : [...left.value, id];
}
const FAMILIES = [
  ["resample", "Resampling"],
  ["denoise", "Denoising"],
  ["sharpen", "Sharpening"],
  ["deconvolve", "Deconvolution"],
  ["tone", "Tone"],
] as const;
const shownMethods = usePreference<"yes" | "no">("methods-shown", "no");
const csv = computed(() => `/api/tools/comparison.csv?tools=${chosen.value.join(",")}`);
const settingWords = (m: { settings: readonly { title: string; unit: string }[] }): string =>
  m.settings
    .map((s) => [s.title, s.unit ? `(${s.unit})` : ""].filter(Boolean).join(" "))
    .join(", ");
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Tools</h1>
        <p class="soft">
          Programs and built-in methods: what each costs, runs on and takes. Reports print this
          table.
        </p>
      </div>
      <v-btn v-if="canEdit" to="/tools/new">Add tool</v-btn>
    </div>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <section class="block">
      <div class="block-head">
        <h2>Side by side</h2>
        <span v-if="programs.length" class="row middle">
          <v-checkbox
            v-for="t in programs"
            :key="t.id"
            :model-value="!left.includes(t.id)"
            :label="t.name"
            @update:model-value="toggle(t.id)"
          />
        </span>
        <a v-if="chosen.length" class="end" :href="csv">CSV</a>
      </div>
      <v-empty-state
        v-if="tools && !programs.length"
        title="No tools yet"
        text="A tool that a treatment names is added automatically; its facts are for you to add."
      >
        <template #actions><v-btn v-if="canEdit" to="/tools/new">Add tool</v-btn></template>
      </v-empty-state>
      <div
        v-else-if="table && chosen.length"
        style="--above: 200px"
        class="scroll"
        tabindex="0"
        role="region"
        aria-label="Tools side by side"
      >
        <v-table class="facts roomy">
          <thead>
            <tr>
              <th scope="col"><span class="visually-hidden">Fact</span></th>
              <th v-for="id in chosen" :key="id" scope="col">
                <router-link :to="`/tools/${id}`">{{
                  programs.find((t) => t.id === id)?.name
                }}</router-link>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in table.rows" :key="row.fact">
              <th scope="row" class="soft" style="width: 170px">{{ row.fact }}</th>
              <td v-for="(told, i) in row.told" :key="i" :class="{ soft: told === 'not known' }">
                {{ told }}
              </td>
            </tr>
            <tr>
              <th scope="row" class="soft" style="width: 170px">Used in</th>
              <td v-for="id in chosen" :key="id">
                {{ counted(programs.find((t) => t.id === id)?.used ?? 0, "step") }} of treatments
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
    </section>
    <section class="block">
      <div class="block-head">
        <h2>Built-in methods</h2>
        <span class="soft"
          >Published methods that anybody can use: plain baselines to hold every tool against.</span
        >
        <TextAction
          class="end"
          :aria-expanded="shownMethods === 'yes'"
          @click="shownMethods = shownMethods === 'yes' ? 'no' : 'yes'"
        >
          {{ shownMethods === "yes" ? "Hide settings and sources" : "Show settings and sources" }}
        </TextAction>
      </div>
      <v-table class="methods">
        <tbody v-for="[key, title] in FAMILIES" :key="key">
          <tr v-for="(m, i) in (methods ?? []).filter((x) => x.family === key)" :key="m.id">
            <th scope="row" class="soft" style="width: 170px">{{ i === 0 ? title : "" }}</th>
            <td>{{ m.title }}</td>
            <td>{{ m.does }}</td>
            <template v-if="shownMethods === 'yes'">
              <td>{{ settingWords(m) }}</td>
              <td class="soft">{{ m.published }}</td>
            </template>
          </tr>
        </tbody>
      </v-table>
    </section>
  </div>
</template>
