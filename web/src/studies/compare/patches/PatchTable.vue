<script setup lang="ts">
import type { Patch } from "@/api/types";

import type { Role } from "./mutations";
import type { Change } from "./usePatchEdits";

defineProps<{
  patches: readonly Patch[];
  roles: readonly { value: Role; title: string }[];
  canEdit: boolean;
  canSpread: boolean;
  refused: number;
}>();
const selected = defineModel<number | undefined>("selected");
const emit = defineEmits<{
  change: [patch: Patch, changes: Change];
  remove: [patch: Patch];
  spread: [patch: Patch];
}>();
const SIDES = [
  ["x", "left"],
  ["y", "top"],
  ["w", "width"],
  ["h", "height"],
] as const;

function rename(patch: Patch, text: string): void {
  const name = text.trim();
  if (name && name !== patch.name) emit("change", patch, { name });
}

function measure(patch: Patch, side: (typeof SIDES)[number][0], value: number | null): void {
  if (value !== null && value !== patch[side]) emit("change", patch, { [side]: value });
}
</script>

<template>
  <section aria-label="Patches on this frame">
    <h2>Patches on this frame</h2>
    <p v-if="!patches.length" class="soft">
      None yet. Draw a lit spot and a dark one at least; then texture, an edge, and a spot that
      should stay soft.
    </p>
    <article
      v-for="p in patches"
      :key="`${p.id}-${refused}`"
      class="in-grid gr-2 gc-2 align-center"
      :class="{ selected: p.id === selected }"
      @focusin="selected = p.id"
      @click="selected = p.id"
    >
      <v-text-field
        :model-value="p.name"
        :aria-label="`Name of ${p.name}`"
        :disabled="!canEdit"
        maxlength="60"
        @change="rename(p, ($event.target as HTMLInputElement).value)"
      />
      <v-select
        :model-value="p.role"
        class="role"
        :items="roles"
        :aria-label="`Type of ${p.name}`"
        :disabled="!canEdit"
        @update:model-value="emit('change', p, { role: $event })"
      />
      <TextAction v-if="canEdit" :aria-label="`Remove ${p.name}`" @click.stop="emit('remove', p)">
        Remove
      </TextAction>
      <p v-if="p.doubt" class="rowan small whole">
        Not plain: {{ p.doubt }}. Its noise is not measured; draw it on an even surface.
      </p>
      <template v-if="p.id === selected">
        <div style="--columns: repeat(4, 1fr)" class="sides whole in-grid ga-2 w-100 columns">
          <NumberField
            v-for="[side, name] in SIDES"
            :key="side"
            :model-value="p[side]"
            :label="name"
            suffix="px"
            :disabled="!canEdit"
            @update:model-value="measure(p, side, $event)"
          />
        </div>
        <TextAction v-if="canEdit && canSpread" class="whole" @click.stop="emit('spread', p)">
          Add to the scene’s other frames
        </TextAction>
      </template>
    </article>
  </section>
</template>

<style scoped>
article {
  grid-template-columns: minmax(0, 1fr) 128px auto;
  padding: 8px 0 8px 10px;
  border-bottom: 1px solid var(--hair);
  border-left: 3px solid transparent;
}
.selected {
  border-left-color: var(--spruce);
}
.whole {
  grid-column: 1 / -1;
  justify-self: start;
}
</style>
