<script setup lang="ts">
// One finding: what, how much, where, what was done about it; evidence a click away.
import { computed, ref } from "vue";

import type { Contender } from "@/api/queries";
import type { Decision, Listed } from "./useFindings";
import { useStudyContext } from "@/studies/shared/useStudyContext";
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
const emit = defineEmits<{ decide: [kind: Decision, reason: string]; reopen: [] }>();
const { study } = useStudyContext();
const reason = ref("");
const accepting = ref(false);
const all = ref(false);

const WEIGHTS = { spoils: "spoils it", colours: "colours it", harmless: "harmless" } as const;
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
  if (!first || first.frame === null) return "in all";
  if (!several.value) return study.value.frames.length > 1 ? `on ${frameName(first.frame)}` : "";
  return `on ${counted(props.finding.places.length, "frame")}, most on ${frameName(first.frame)}`;
});
/** What a button that takes the difference off is called, by the remedies that do so. */
const MATCHES = {
  "match exposure": "Match it",
  "match exposure and tone": "Match it",
  "bring to a common size": "Bring to one size",
} as const;
const match = computed(
  () => props.finding.remedies.find((r) => r in MATCHES) as keyof typeof MATCHES | undefined,
);
const again = computed(() => props.finding.remedies.includes("make it again"));
const byHand = computed(() => props.finding.remedies.includes("place points by hand"));

/** Where the evidence of a place is shown: the output's page, or where files and treatments are listed. */
function evidence(output: number | null) {
  const home = `/studies/${study.value.id}`;
  if (props.finding.told.evidence === "treatment") return { path: `${home}/set-up` };
  const show = EVIDENCE[props.finding.told.evidence];
  if (!show || output === null) return { path: `${home}/bring-in` };
  return { path: `${home}/outputs/${output}`, query: { show } };
}

function accept(): void {
  emit("decide", "accepted", reason.value);
  accepting.value = false;
}
</script>

<template>
  <li class="finding" :class="[finding.weight, { open: finding.open }]">
    <span class="weight">{{ WEIGHTS[finding.weight] }}</span>
    <div class="what">
      <LetterBox v-if="within" :letter="letter" />
      <strong v-else>{{ finding.told.title }}</strong>
      <span class="words">{{ worst?.words }}</span>
      <span class="soft">{{ where }}</span>
      <button v-if="several" type="button" class="link" :aria-expanded="all" @click="all = !all">
        {{ all ? "only the largest" : "every frame" }}
      </button>
      <ul v-if="all" class="places">
        <li v-for="place in finding.places" :key="place.frame ?? 0">
          <router-link :to="evidence(place.output)">{{ frameName(place.frame) }}</router-link>
          <span class="soft"> {{ place.words }}</span>
        </li>
      </ul>
      <span v-if="!within" class="soft rule"
        >Tolerance {{ finding.told.tolerance }}; {{ finding.told.found_by }}.</span
      >
      <form v-if="accepting" class="reason" @submit.prevent="accept">
        <v-text-field
          v-model="reason"
          label="Why it may stand; readers will see this"
          maxlength="300"
          autofocus
          hide-details
        />
        <v-btn type="submit" size="small" :disabled="!reason.trim()">Accept</v-btn>
        <button type="button" class="link" @click="accepting = false">Not now</button>
      </form>
    </div>
    <div class="done">
      <p v-if="finding.decision">
        {{ DONE[finding.decision.kind] }}
        <span class="soft">
          by {{ finding.decision.who }},
          {{ finding.decision.created.slice(0, 16).replace("T", " ") }}</span
        >
        <span v-if="finding.decision.reason" class="because">{{ finding.decision.reason }}</span>
      </p>
      <div class="acts">
        <router-link v-if="worst" :to="evidence(worst.output)">Evidence</router-link>
        <template v-if="canEdit && finding.state === 'open'">
          <button
            v-if="match"
            type="button"
            class="link"
            :disabled="busy"
            :aria-label="`${match}: ${letter}, ${finding.told.title}`"
            @click="emit('decide', 'matched', '')"
          >
            {{ MATCHES[match] }}
          </button>
          <router-link
            v-if="byHand && worst?.output"
            :to="{
              path: `/studies/${study.id}/outputs/${worst.output}`,
              query: { show: 'line-up', points: 'place' },
            }"
            >Place points</router-link
          >
          <button
            v-if="again"
            type="button"
            class="link"
            :disabled="busy"
            :aria-label="`Make again: ${letter}, ${finding.told.title}`"
            @click="emit('decide', 'made again', '')"
          >
            Make it again
          </button>
          <button
            type="button"
            class="link"
            :aria-label="`Accept: ${letter}, ${finding.told.title}`"
            @click="accepting = true"
          >
            Accept ...
          </button>
        </template>
        <button
          v-if="canEdit && finding.decision"
          type="button"
          class="link"
          :disabled="busy"
          :aria-label="`Reopen: ${letter}, ${finding.told.title}`"
          @click="emit('reopen')"
        >
          Reopen
        </button>
      </div>
    </div>
  </li>
</template>

<style scoped>
.finding {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) minmax(220px, 330px);
  gap: 4px 16px;
  padding: 9px 0;
  border-bottom: 1px solid var(--hair);
}
.weight {
  color: var(--soft);
}
.open .weight {
  color: var(--rowan);
  font-weight: 600;
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-content: flex-start;
}
.rule,
.places,
.reason {
  flex-basis: 100%;
}
.rule {
  font-size: 13px;
}
.places {
  list-style: none;
  padding: 4px 0;
}
.reason {
  display: flex;
  gap: 10px;
  align-items: center;
  padding-top: 6px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  justify-content: flex-end;
}
.done p {
  text-align: right;
}
.because {
  display: block;
}
</style>
