<script setup lang="ts">
// One finding: what, how much, where, what was done about it; evidence a click away.
import { computed, ref } from "vue";

import type { Contender } from "@/api/types";
import type { Decision } from "./mutations";
import type { Listed } from "./useFindings";
import { useStudyContext } from "@/studies/shared/useStudyContext";
import { moment } from "@/shared/lib/formats";
import { counted } from "@/shared/lib/words";
import LetterBox from "@/shared/ui/LetterBox.vue";

const props = defineProps<{
  finding: Listed;
  contender: Contender;
  busy: boolean;
  canEdit: boolean;
  /** Among others of its rule, whose title and tolerance stand above all of them. */
  within?: boolean;
}>();
const letter = computed(() => props.contender.letter);
const marked = defineModel<string[]>("marked", { default: () => [] });
const emit = defineEmits<{ decide: [kind: Decision, reason: string]; reopen: [] }>();
const { study } = useStudyContext();
const reason = ref("");
const accepting = ref(false);
const all = ref(false);

const WEIGHTS = {
  spoils: "invalidates",
  colours: "affects",
  harmless: "harmless",
} as const;
const DONE = {
  accepted: "accepted",
  matched: "matched",
  "made again": "to be made again",
} as Record<string, string>;
const EVIDENCE = {
  "line-up": "line-up",
  tone: "tone",
  colour: "tone",
  edge: "picture",
  noise: "picture",
} as Record<string, string>;
const frameName = (id: number | null) => study.value.frames.find((f) => f.id === id)?.name ?? "";
const worst = computed(() => props.finding.places[0]);
const several = computed(() => props.finding.places.length > 1);
const where = computed(() => {
  const [first] = props.finding.places;
  if (!first || first.frame === null) return "everywhere";
  if (!several.value) return study.value.frames.length > 1 ? `on ${frameName(first.frame)}` : "";
  return `on ${counted(props.finding.places.length, "frame")}, most on ${frameName(first.frame)}`;
});
/** What a button that takes the difference off is called, by the remedies that do so. */
const MATCHES = {
  "match exposure": "Match",
  "match exposure and tone": "Match",
  "bring to a common size": "Bring to one size",
} as const;
const match = computed(
  () => props.finding.remedies.find((r) => r in MATCHES) as keyof typeof MATCHES | undefined,
);
const again = computed(() => props.finding.remedies.includes("make it again"));
const byHand = computed(() => props.finding.remedies.includes("place points by hand"));

/**
 * Where the evidence of a place is shown, and marked: an output’s page, or the cell or contender.
 */
function evidence(place: { output: number | null; frame: number | null } | undefined) {
  const home = `/studies/${study.value.id}`;
  const contender = props.contender.id;
  if (props.finding.told.evidence === "treatment")
    return { path: `${home}/set-up`, query: { contender } };
  const show = EVIDENCE[props.finding.told.evidence];
  if (!show || !place?.output)
    return { path: `${home}/bring-in`, query: { cell: `${contender}-${place?.frame ?? ""}` } };
  return { path: `${home}/outputs/${place.output}`, query: { show, finding: props.finding.rule } };
}

function accept(): void {
  emit("decide", "accepted", reason.value);
  accepting.value = false;
}
</script>

<template>
  <li
    style="--columns: 128px minmax(0, 1fr) minmax(220px, 330px)"
    class="finding columns folds in-grid gr-1 gc-4 py-2 hair-below"
    :class="[finding.weight, { open: finding.open }]"
  >
    <span class="weight soft">
      <v-checkbox
        v-if="canEdit && finding.open"
        v-model="marked"
        :value="finding.key"
        :label="WEIGHTS[finding.weight]"
        :aria-label="`Select ${letter}, ${finding.told.title}`"
      />
      <template v-else>{{ WEIGHTS[finding.weight] }}</template>
    </span>
    <div class="what d-flex flex-wrap gr-1 gc-3 align-content-start">
      <LetterBox v-if="within" :letter="letter" />
      <strong v-else>{{ finding.told.title }}</strong>
      <span class="words">{{ worst?.words }}</span>
      <span class="soft">{{ where }}</span>
      <TextAction v-if="several" :aria-expanded="all" @click="all = !all">
        {{ all ? "Show largest only" : "Show every frame" }}
      </TextAction>
      <ul v-if="all" class="bare places w-100">
        <li v-for="place in finding.places" :key="place.frame ?? 0">
          <router-link :to="evidence(place)">{{ frameName(place.frame) }}</router-link>
          <span class="soft"> {{ place.words }}</span>
        </li>
      </ul>
      <span v-if="!within" class="soft small rule w-100"
        >Tolerance {{ finding.told.tolerance }}; {{ finding.told.found_by }}.</span
      >
      <v-form
        v-if="accepting"
        class="reason d-flex ga-2 align-end pt-2 w-100"
        @submit.prevent="accept"
      >
        <v-text-field
          v-model="reason"
          label="Reason, printed in the report"
          maxlength="300"
          autofocus
          hide-details
        />
        <v-btn type="submit" height="40" :disabled="!reason.trim()">Accept</v-btn>
        <TextAction @click="accepting = false">Cancel</TextAction>
      </v-form>
    </div>
    <div class="done">
      <p v-if="finding.decision">
        {{ DONE[finding.decision.kind] }}
        <span class="soft">
          by {{ finding.decision.who }}, {{ moment(finding.decision.created) }}</span
        >
        <span v-if="finding.decision.reason" class="d-block">{{ finding.decision.reason }}</span>
      </p>
      <div class="row justify-end">
        <router-link v-if="worst" :to="evidence(worst)">Evidence</router-link>
        <template v-if="canEdit && finding.state === 'open'">
          <TextAction
            v-if="match"
            :disabled="busy"
            :aria-label="`${match}: ${letter}, ${finding.told.title}`"
            @click="emit('decide', 'matched', '')"
          >
            {{ MATCHES[match] }}
          </TextAction>
          <router-link
            v-if="byHand && worst?.output"
            :to="{
              path: `/studies/${study.id}/outputs/${worst.output}`,
              query: { show: 'line-up', points: 'place' },
            }"
            >Place points</router-link
          >
          <TextAction
            v-if="again"
            :disabled="busy"
            :aria-label="`Request a new output: ${letter}, ${finding.told.title}`"
            @click="emit('decide', 'made again', '')"
          >
            Request a new output
          </TextAction>
          <TextAction
            :aria-label="`Accept: ${letter}, ${finding.told.title}`"
            @click="accepting = true"
          >
            Accept …
          </TextAction>
        </template>
        <TextAction
          v-if="canEdit && finding.decision"
          :disabled="busy"
          :aria-label="`Reopen: ${letter}, ${finding.told.title}`"
          @click="emit('reopen')"
        >
          Reopen
        </TextAction>
      </div>
    </div>
  </li>
</template>

<style scoped>
.open .weight {
  color: var(--rowan);
  font-weight: 600;
}
.done p {
  text-align: right;
}
</style>
