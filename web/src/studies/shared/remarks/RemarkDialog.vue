<script setup lang="ts">
// Saying what is seen at a spot, or something else of one that was said.
import { computed, ref, watch } from "vue";

import type { Contender, Remark } from "@/api/types";
import LetterBox from "@/shared/ui/LetterBox.vue";
import { named } from "@/shared/lib/words";
import { moment } from "@/shared/lib/formats";

import { useRemarkChanges } from "./mutations";
import { lettersOf, REMARK_KINDS, saidBy } from "./remarks";

export interface Placing {
  frame: number;
  x: number;
  y: number;
  /** The contender it is about, to begin with. */
  contender: number | undefined;
}

const props = defineProps<{
  study: number;
  /** A spot to be remarked on, or a remark that is there. */
  of: Placing | Remark | undefined;
  columns: readonly Contender[];
  canEdit: boolean;
}>();
const emit = defineEmits<{ close: [] }>();
const { place, change, remove, busy } = useRemarkChanges(() => props.study);
const remark = computed(() => (props.of && "id" in props.of ? props.of : undefined));
const open = computed({ get: () => props.of !== undefined, set: (to) => !to && emit("close") });
const kind = ref<Remark["kind"]>("smeared");
const text = ref("");
const contenders = ref<number[]>([]);
watch(
  () => props.of,
  (of) => {
    if (!of) return;
    const known = "id" in of ? of : undefined;
    kind.value = known?.kind ?? "smeared";
    text.value = known?.text ?? "";
    contenders.value =
      known?.contenders.slice() ?? ("contender" in of && of.contender ? [of.contender] : []);
  },
  { immediate: true },
);
const missing = computed(() => kind.value === "own words" && !text.value.trim());

async function save(): Promise<void> {
  const said = { kind: kind.value, text: text.value, contenders: contenders.value };
  const { of } = props;
  if (!of) return;
  const { frame, x, y } = of;
  const done = remark.value
    ? await change(remark.value.id, said)
    : await place({ ...said, frame, x, y });
  if (done) emit("close");
}

function takeAway(): void {
  if (remark.value) remove(remark.value);
  emit("close");
}

function toggle(id: number): void {
  const there = contenders.value.includes(id);
  contenders.value = there ? contenders.value.filter((c) => c !== id) : [...contenders.value, id];
}
</script>

<template>
  <v-dialog v-model="open" max-width="520" aria-labelledby="remark-title">
    <v-card v-if="of">
      <h2 id="remark-title">{{ remark ? `Remark ${remark.number}` : "Add remark" }}</h2>
      <p class="soft small mono pt-1">
        at {{ of.x.toFixed(0) }}, {{ of.y.toFixed(0) }} px of the frame<template v-if="remark"
          >; {{ remark.author }}, {{ moment(remark.created) }}</template
        >
      </p>
      <v-form v-if="canEdit" class="stack pt-3" @submit.prevent="save">
        <v-select
          v-model="kind"
          label="What is seen"
          :items="REMARK_KINDS.map((k) => ({ value: k, title: k }))"
        />
        <v-text-field
          v-model="text"
          :label="kind === 'own words' ? 'In your words' : 'More, if you like'"
          maxlength="400"
        />
        <div role="group" aria-label="Holds for">
          <p class="small soft">
            Holds for {{ contenders.length ? "those chosen" : "all contenders" }}
          </p>
          <div class="d-flex flex-wrap ga-1 pt-1">
            <IconAction
              v-for="c in columns"
              :key="c.id"
              class="chip"
              :aria-label="`${c.letter}, ${named(c)}`"
              :aria-pressed="contenders.includes(c.id)"
              @click="toggle(c.id)"
            >
              <LetterBox :letter="c.letter" />
            </IconAction>
          </div>
        </div>
        <div class="dialog-acts">
          <v-btn variant="flat" type="submit" :loading="busy" :disabled="missing">
            {{ remark ? "Save" : "Add" }}
          </v-btn>
          <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
          <TextAction v-if="remark" class="end" @click="takeAway">Remove</TextAction>
        </div>
      </v-form>
      <template v-else-if="remark">
        <p class="pt-3">{{ saidBy(remark) }}</p>
        <p class="soft">
          Holds for
          {{ remark.of_all ? "all contenders" : lettersOf(remark, columns).join(", ") || "none" }}
        </p>
        <div class="dialog-acts"><v-btn @click="emit('close')">Close</v-btn></div>
      </template>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.chip {
  height: 30px;
  padding: 0 4px;
  border-bottom: 2px solid transparent;
}
.chip[aria-pressed="true"] {
  border-bottom-color: var(--ink);
}
</style>
