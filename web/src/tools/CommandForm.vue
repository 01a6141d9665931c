<script setup lang="ts">
// By which allowed program a release is run, and how.
import { ref, watch } from "vue";

import { api, ask } from "@/api/client";
import { type Release, usePrograms } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";

const props = defineProps<{ release: Release }>();
const { data: programs } = usePrograms();
const { act } = useAct();
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
  const params = { path: { release_id: props.release.id } };
  const body = { ...command.value, arguments: lines };
  await act(
    () => ask(api.PUT("/api/releases/{release_id}/command", { params, body })),
    "Command saved.",
  );
}

function take(): void {
  const params = { path: { release_id: props.release.id } };
  void act(
    () => ask(api.DELETE("/api/releases/{release_id}/command", { params })),
    "It is run by no program any more.",
  );
}
</script>

<template>
  <form class="form command" @submit.prevent="set">
    <h4>Command</h4>
    <p class="soft">
      One argument a line. {input}, {output}, {mode}, {strength} and the settings' names in braces
      are filled in; a line that names something which a step does not tell is left out. No shell is
      involved. Programs are those in
      <code>{{ programs?.directory }}</code>.
    </p>
    <div class="line">
      <label
        >Program
        <select v-model="command.program" class="quiet-select" aria-label="Program that runs it">
          <option v-for="p in programs?.programs ?? []" :key="p">{{ p }}</option>
        </select></label
      >
      <label>writes <input v-model="command.ending" class="text-input unit" /></label>
      <label
        >at most
        <input v-model.number="command.seconds" type="number" class="number-input few" /> s,</label
      >
      <label
        ><input
          v-model.number="command.memory_mb"
          type="number"
          class="number-input few"
          aria-label="Memory in MB"
        />
        MB of memory,</label
      >
      <label
        ><input
          v-model.number="command.output_mb"
          type="number"
          class="number-input few"
          aria-label="Output in MB"
        />
        MB written</label
      >
    </div>
    <textarea
      v-model="command.arguments"
      class="text-input lines"
      rows="4"
      aria-label="Arguments, one a line"
      placeholder="{input}&#10;{output}&#10;--strength={strength}"
    />
    <v-checkbox
      v-model="command.network"
      label="May use the network"
      density="compact"
      hide-details
    />
    <p v-if="programs?.open" class="soft">
      On this machine programs can read the bench's files and use the network: {{ programs.open }}.
    </p>
    <div class="line">
      <v-btn type="submit" :disabled="!command.program">Save the command</v-btn>
      <button v-if="release.command" type="button" class="link" @click="take">
        Run it by no program
      </button>
    </div>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
  border-left: 2px solid var(--rule);
  padding: 6px 0 0 16px;
}
.line {
  display: flex;
  gap: 8px 18px;
  flex-wrap: wrap;
  align-items: baseline;
}
.few,
.unit {
  width: 82px;
}
h4 {
  font: 600 14px var(--text);
  margin: 0;
}
.lines {
  font: 12.5px var(--mono);
  width: 100%;
  max-width: 720px;
}
code {
  font: 12.5px var(--mono);
}
</style>
