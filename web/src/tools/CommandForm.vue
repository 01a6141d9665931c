<script setup lang="ts">
// By which allowed program a release is run, and how.
import { ref, watch } from "vue";

import type { Release } from "@/api/types";
import { usePrograms } from "@/tools/queries";

import { useToolChanges } from "./mutations";

const props = defineProps<{ release: Release }>();
const { data: programs } = usePrograms();
const changes = useToolChanges();
const LIMITS = { ending: ".tif", seconds: 600, memory_mb: 4000, output_mb: 2000, network: false };
const command = ref({ program: "", arguments: "", ...LIMITS });
watch(
  () => JSON.stringify(props.release.command),
  () => {
    const told = props.release.command;
    if (told) command.value = { ...told, arguments: told.arguments.join("\n") };
  },
  { immediate: true },
);

async function set(): Promise<void> {
  const lines = command.value.arguments
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);
  await changes.saveCommand(props.release, { ...command.value, arguments: lines });
}
const NUMBERS = [
  ["seconds", "Time limit", "s"],
  ["memory_mb", "Memory limit", "MB"],
  ["output_mb", "Output limit", "MB"],
] as const;
</script>

<template>
  <v-form class="stack command" aria-label="Command" @submit.prevent="set">
    <h4 class="ma-0">Command</h4>
    <p class="soft prose">
      One argument per line. {input}, {output}, {mode}, {strength} and the names of settings in
      braces are filled in; a line whose value a step does not state is left out. No shell is
      involved. Programs are those in
      <code class="mono">{{ programs?.directory }}</code>. Editions publish the command, arguments
      and all, so that readers can run it again: keep keys and passwords out of it.
    </p>
    <div class="fields">
      <v-select
        :model-value="command.program as never"
        label="Program"
        :items="(programs?.programs ?? []) as never"
        @update:model-value="command.program = $event as never"
      />
      <v-text-field v-model="command.ending" label="Writes files ending in" />
      <NumberField
        v-for="[key, label, unit] in NUMBERS"
        :key="key"
        v-model="command[key]"
        :label="label"
        :suffix="unit"
      />
    </div>
    <v-textarea
      v-model="command.arguments"
      class="number"
      label="Arguments, one per line"
      rows="4"
      placeholder="{input}&#10;{output}&#10;--strength={strength}"
    />
    <v-checkbox v-model="command.network" label="May use the network" />
    <p v-if="programs?.open" class="soft">
      On this machine programs can read the bench’s files and use the network: {{ programs.open }}.
    </p>
    <div class="row middle">
      <v-btn type="submit" :disabled="!command.program">Save command</v-btn>
      <TextAction v-if="release.command" @click="changes.removeCommand(release)"
        >Remove command</TextAction
      >
    </div>
  </v-form>
</template>

<style scoped>
.command {
  border-left: 2px solid var(--rule);
  padding: 6px 0 0 16px;
  max-width: 1000px;
}
h4 {
  font: 600 14px var(--text);
}
</style>
