<script setup lang="ts">
// A name that is edited where it stands; empty or unchanged, it stays as it was.
const props = defineProps<{ name: string; label: string }>();
const emit = defineEmits<{ change: [name: string] }>();

function changed(event: Event): void {
  const field = event.target as HTMLInputElement;
  const name = field.value.trim();
  if (name && name !== props.name) emit("change", name);
  else field.value = props.name;
}
</script>

<template>
  <v-text-field
    class="name-field"
    :model-value="name"
    :aria-label="label"
    variant="plain"
    maxlength="120"
    @change="changed"
  />
</template>

<style scoped>
.name-field :deep(input) {
  font: 650 15px var(--display);
  min-height: 26px;
  padding: 0;
  border-bottom: 1px solid transparent;
}
.name-field :deep(input:is(:hover, :focus)) {
  border-bottom-color: var(--rule);
}
.name-field :deep(.v-field__field) {
  align-items: baseline;
}
.name-field :deep(.v-field) {
  background: none;
}
</style>
