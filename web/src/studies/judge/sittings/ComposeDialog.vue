<script setup lang="ts">
// A sitting before it is begun: what is asked of whom, and what that can tell.
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";

import QuietSelect from "@/shared/ui/QuietSelect.vue";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { useUses } from "@/studies/shared/uses/queries";

import { useSittingActs } from "./mutations";
import { useProspect } from "./queries";
import { KIND_ITEMS, neededWords, prospectWords } from "./words";

const { study, columns, treatments } = useStudyContext();
const open = defineModel<boolean>({ required: true });
/** What was called with names seen, to be judged without. */
const props = defineProps<{ called?: { letters: string[]; patches: number[] } }>();
const router = useRouter();
const { busy, compose } = useSittingActs(() => study.value.id);
const uses = useUses();
const question = ref("");
const kind = ref<"pairs" | "single" | "order">("pairs");
const letters = ref<string[]>([]);
const spots = ref<string[]>([]);
const count = ref(40);
const judges = ref(3);
const zoom = ref(2);
const use = ref("");
const beside = ref("");
const matched = ref(false);
const adaptive = ref(false);
const better = ref("");
const worse = ref("");

watch(
  open,
  (now) => {
    if (now && props.called) {
      letters.value = props.called.letters;
      spots.value = props.called.patches.map((p) => `p${p}`);
      question.value ||= "Which is better?";
      return;
    }
    if (!now || letters.value.length) return;
    letters.value = treatments.value.map((c) => c.letter);
    spots.value = study.value.patches.slice(0, 8).map((p) => `p${p.id}`);
  },
  { immediate: true },
);
const contenders = computed(() =>
  columns.value.map((c) => ({ value: c.letter, title: `${c.letter} ${c.title}` })),
);
const nobody = [{ value: "", title: "nothing" }];
const besides = computed(() => [...nobody, ...contenders.value]);
const places = computed(() => {
  const name = new Map(study.value.frames.map((f) => [f.id, f.name]));
  return [
    ...study.value.patches.map((p) => ({
      value: `p${p.id}`,
      title: `${p.name}, ${name.get(p.frame) ?? ""}`,
    })),
    ...study.value.frames.map((f) => ({ value: `f${f.id}`, title: `Whole frame, ${f.name}` })),
  ];
});
const ZOOMS = [1, 2, 3, 4, 6, 8].map((z) => ({ value: z, title: `${100 * z} %` }));
const useItems = computed(() => [
  { value: "", title: "as made" },
  ...uses.value.map((u) => ({ value: u.id, title: u.name })),
]);
const obvious = computed(() =>
  better.value && worse.value && better.value !== worse.value ? [better.value, worse.value] : [],
);
const planned = computed(() => ({
  kind: kind.value,
  contenders: Math.max(1, letters.value.length),
  spots: Math.max(1, spots.value.length),
  count: count.value || 1,
  judges: judges.value || 1,
  obvious: obvious.value.length ? ("yes" as const) : ("no" as const),
}));
const { data: prospect } = useProspect(planned);
const of = (sign: string): number[] =>
  spots.value.filter((s) => s.startsWith(sign)).map((s) => Number(s.slice(1)));

async function begin(): Promise<void> {
  const made = await compose({
    question: question.value,
    kind: kind.value,
    letters: letters.value,
    patches: of("p"),
    frames: of("f"),
    count: count.value,
    zoom: zoom.value,
    use: use.value,
    beside: beside.value,
    matched: matched.value && !use.value,
    adaptive: adaptive.value && kind.value === "pairs",
    obvious: obvious.value,
  });
  if (!made) return;
  open.value = false;
  await router.push(`/studies/${study.value.id}/sittings/${made.id}`);
}
const least = computed(() => (kind.value === "single" ? 1 : 2));
</script>

<template>
  <v-dialog v-model="open" max-width="760" scrollable aria-label="Compose a sitting">
    <v-card>
      <v-form class="stack form" @submit.prevent="begin">
        <h2>Compose a sitting</h2>
        <v-text-field
          v-model="question"
          label="Question to the judges"
          placeholder="Which shows the thread better?"
          maxlength="200"
          autofocus
        />
        <v-select v-model="kind" label="What they are shown" :items="[...KIND_ITEMS]" />
        <v-select v-model="letters" multiple chips label="Contenders" :items="contenders" />
        <v-autocomplete
          v-model="spots"
          multiple
          chips
          label="Patches and whole frames"
          :items="places"
        />
        <div class="d-flex flex-wrap ga-3">
          <NumberField
            v-if="kind === 'pairs'"
            v-model="count"
            label="Pairs a judge"
            :min="1"
            :max="400"
          />
          <NumberField v-model="judges" label="Judges expected" :min="1" :max="500" />
          <v-select v-model="zoom" label="Magnification" :items="ZOOMS" />
          <v-select v-model="use" label="Seen" :items="useItems" />
          <v-select v-model="beside" label="Always shown as well" :items="besides" />
        </div>
        <v-checkbox v-model="matched" label="Brightness matched to the frame’s" :disabled="!!use" />
        <v-checkbox
          v-if="kind === 'pairs' && letters.length > 2"
          v-model="adaptive"
          label="Pairs chosen by what is least known so far (D-optimum), instead of each as often"
        />
        <div v-if="kind === 'pairs'" class="row middle">
          <span class="soft">An obvious pair, as a check of who looks:</span>
          <QuietSelect v-model="better" label="the better" :items="besides" />
          <QuietSelect v-model="worse" label="the worse" :items="besides" />
        </div>
        <p v-if="prospect" role="status" data-test="prospect">
          {{ prospectWords(prospect, judges) }}
          <span v-if="kind === 'pairs'" class="soft">{{ neededWords(prospect) }}</span>
        </p>
        <p class="soft small">
          Sides are balanced at random, a tenth of the pairs comes again with sides changed, a
          twentieth is one contender twice. What is shown is frozen when the sitting begins.
        </p>
        <div class="dialog-acts">
          <v-btn
            type="submit"
            variant="flat"
            :loading="busy"
            :disabled="!question.trim() || letters.length < least || !spots.length"
            >Begin the sitting</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </v-form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.form {
  overflow-y: auto;
}
.d-flex > .v-input {
  flex: 1 1 130px;
}
</style>
