<script setup lang="ts">
import type { Patch } from "@/api/queries";

defineProps<{
  patches: readonly Patch[];
  roles: readonly string[];
  canEdit: boolean;
  canSpread: boolean;
  refused: number;
}>();
const selected = defineModel<number | undefined>("selected");
const emit = defineEmits<{
  change: [patch: Patch, changes: Partial<Patch>];
  remove: [patch: Patch];
  spread: [patch: Patch];
}>();
const SIDES = [
  ["x", "left"],
  ["y", "top"],
  ["w", "width"],
  ["h", "height"],
] as const;

function text(patch: Patch, event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim();
  if (name && name !== patch.name) emit("change", patch, { name });
}

function number(patch: Patch, side: (typeof SIDES)[number][0], event: Event): void {
  const value = Number((event.target as HTMLInputElement).value);
  if (Number.isFinite(value) && value !== patch[side]) emit("change", patch, { [side]: value });
}
</script>

<template>
  <div class="list">
    <h2>Patches on this frame</h2>
    <p v-if="!patches.length" class="soft">
      None yet. A lit spot and a dark one at least; texture, an edge, and a spot that should stay
      soft.
    </p>
    <article
      v-for="p in patches"
      :key="`${p.id}-${refused}`"
      :class="{ selected: p.id === selected }"
      @focusin="selected = p.id"
      @click="selected = p.id"
    >
      <input
        :value="p.name"
        class="name"
        :aria-label="`Name of ${p.name}`"
        :disabled="!canEdit"
        maxlength="60"
        @change="text(p, $event)"
      />
      <select
        class="quiet-select"
        :value="p.role"
        :aria-label="`Role of ${p.name}`"
        :disabled="!canEdit"
        @change="
          emit('change', p, { role: ($event.target as HTMLSelectElement).value as Patch['role'] })
        "
      >
        <option v-for="r in roles" :key="r" :value="r">{{ r }}</option>
      </select>
      <button
        v-if="canEdit"
        type="button"
        class="link"
        :aria-label="`Remove ${p.name}`"
        @click.stop="emit('remove', p)"
      >
        Remove
      </button>
      <button
        v-if="canEdit && canSpread && p.id === selected"
        type="button"
        class="link spread"
        @click.stop="emit('spread', p)"
      >
        Draw on the scene's other frames too
      </button>
      <p v-if="p.doubt" class="rowan doubt">
        Not plain: {{ p.doubt }}. Its noise is not measured; draw it on an even surface.
      </p>
      <div class="sides">
        <label v-for="[side, name] in SIDES" :key="side">
          <span class="soft">{{ name }}</span>
          <input
            type="number"
            step="any"
            class="mono"
            :value="p[side]"
            :disabled="!canEdit"
            @change="number(p, side, $event)"
          />
        </label>
      </div>
    </article>
  </div>
</template>

<style scoped>
.list {
  border-top: 2px solid var(--ink);
  padding-top: 8px;
}
article {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 6px 12px;
  align-items: center;
  padding: 10px 0 10px 10px;
  border-bottom: 1px solid var(--hair);
  border-left: 3px solid transparent;
}
.doubt {
  grid-column: 1 / -1;
  font-size: 13px;
}
.selected {
  border-left-color: var(--spruce);
}
input {
  color: inherit;
  background: none;
  border: 1px solid transparent;
  border-bottom-color: var(--hair);
  padding: 2px 4px;
  width: 100%;
}
.name {
  font: 600 14px var(--text);
}
.spread {
  grid-column: 1 / -1;
  justify-self: start;
}
.sides {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 10px;
}
.sides label span {
  font-size: 12px;
}
</style>
