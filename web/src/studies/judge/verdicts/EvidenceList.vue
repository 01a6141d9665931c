<script setup lang="ts">
// What a verdict can rest on, by where it comes from; a click links it, another lets it go.
import { computed } from "vue";

import type { Shape } from "@/api/client";
import { useStudyContext } from "@/studies/shared/useStudyContext";

const props = defineProps<{
  known: readonly Shape["EvidenceLineOut"][];
  things: readonly Shape["ThingOut"][];
  chosen: readonly string[];
}>();
const emit = defineEmits<{ toggle: [key: string] }>();
const { study, canEdit } = useStudyContext();
const GROUPS = [
  ["readings", "Readings"],
  ["seen", "Whether anybody would see it, by a model"],
  ["blind", "Judges without names"],
  ["named", "Called with names seen"],
] as const;
const words = computed(() => new Map(props.things.map((t) => [t.key, t.text])));
const part = (key: string): string => key.split(":")[1] ?? "";
/** Where a thing is looked at. */
function to(key: string): string | undefined {
  const home = `/studies/${study.value.id}`;
  if (key.startsWith("patch:")) return `${home}/look?patch=${part(key)}`;
  if (key.startsWith("seen:")) return `${home}/questions/visibility`;
  if (key.startsWith("readings:")) return `${home}/numbers`;
  if (key.startsWith("named:")) return `${home}/compare`;
  return undefined;
}
const groups = computed(() => {
  const made = GROUPS.map(([kind, title]) => ({
    title,
    rows: props.known.filter((e) => e.kind === kind).map(({ key, text }) => ({ key, text })),
  }));
  const seen = new Set(made.flatMap((g) => g.rows.map((r) => r.key)));
  const of = (sign: string) =>
    props.things.filter((t) => t.key.startsWith(sign) && !seen.has(t.key));
  // What it rests on already, but of another use or kind of scene.
  const others = props.chosen.filter(
    (k) => !seen.has(k) && !k.startsWith("patch:") && !k.startsWith("remark:"),
  );
  return [
    ...made,
    { title: "Remarks", rows: of("remark:") },
    { title: "Patches", rows: of("patch:") },
    {
      title: "Of other scenes or uses, or gone",
      rows: others.map((key) => ({ key, text: words.value.get(key) ?? "no longer there" })),
    },
  ].filter((g) => g.rows.length);
});
const count = computed(() => props.chosen.length);
</script>

<template>
  <fieldset v-if="groups.length">
    <legend>Rests on {{ ["nothing yet", "one thing"][count] ?? `${count} things` }}</legend>
    <details v-for="g in groups" :key="g.title" class="pt-1">
      <summary class="soft cursor-pointer">
        {{ g.title }}, {{ g.rows.filter((r) => chosen.includes(r.key)).length }} of
        {{ g.rows.length }}
      </summary>
      <div class="lines">
        <div v-for="r in g.rows" :key="r.key" class="d-flex ga-2 align-center">
          <v-checkbox
            :model-value="chosen.includes(r.key)"
            :label="r.text"
            density="compact"
            :readonly="!canEdit"
            @update:model-value="emit('toggle', r.key)"
          />
          <router-link
            v-if="to(r.key)"
            :to="to(r.key) ?? ''"
            class="small"
            :aria-label="`look at ${r.text}`"
            >look</router-link
          >
        </div>
      </div>
    </details>
  </fieldset>
</template>

<style scoped>
summary {
  padding: 4px 0;
  min-height: 28px;
}
.lines {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(460px, 1fr));
  gap: 0 16px;
}
.lines :deep(.v-selection-control) {
  min-height: 28px;
}
@media (max-width: 720px) {
  .lines {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
