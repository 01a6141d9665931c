<script setup lang="ts">
// What a raw frame shows: a scene, or what a body is measured by.
import type { Frame } from "@/api/types";
import ChoiceBar from "@/shared/ui/ChoiceBar.vue";

defineProps<{ kind: Frame["kind"]; canEdit: boolean }>();
defineEmits<{ change: [kind: NonNullable<Frame["kind"]>] }>();
const KINDS = [
  { value: "scene", title: "Scene" },
  { value: "flat", title: "Evenly lit" },
  { value: "dark", title: "Cap on" },
] as const;
</script>

<template>
  <ChoiceBar
    v-if="canEdit"
    label="Shows"
    :items="KINDS"
    :model-value="kind ?? 'scene'"
    @update:model-value="$emit('change', $event)"
  />
  <p v-else class="soft">Shows: {{ KINDS.find((k) => k.value === kind)?.title }}</p>
</template>
