<script setup lang="ts">
// A judge's seat: one question, pictures without names, an answer by key.
import { computed } from "vue";

import { usePageTitle } from "@/shared/lib/useTitle";

import JudgeAnswers from "./JudgeAnswers.vue";
import JudgePictures from "./JudgePictures.vue";
import ScreenCheck from "./ScreenCheck.vue";
import { aboutMinutes } from "./stage";
import { useJudging } from "./useJudging";

const props = defineProps<{ seat: string }>();
usePageTitle("Sitting");
const judging = useJudging(props.seat);
const { seat: state, error, place, places, shown, problem, waiting, over, paused } = judging;
const WHAT = { pairs: "pair", single: "picture", order: "row" };
const stopped = computed(() => state.value?.problem ?? "");
const checked = computed(() => Object.keys(state.value?.screen ?? {}).length > 0);
</script>

<template>
  <p v-if="error" class="page rowan before" role="alert">{{ error.message }}</p>
  <section v-else-if="state && stopped" class="page readable before">
    <h1>{{ stopped }}</h1>
    <p class="soft">{{ state.answered }} of {{ state.places }} answers were given and are kept.</p>
  </section>
  <section v-else-if="state && over" class="page readable before">
    <h1>{{ waiting ? "Sending your last answers" : "That was all. Thank you." }}</h1>
    <p v-if="waiting" class="soft" role="status">
      {{ waiting }} on the way. Leave this page open until they are sent.
    </p>
    <p v-else class="soft">
      {{ places }} answers are kept. Whose pictures they were is told when the sitting is closed.
    </p>
    <TextAction v-if="!waiting" @click="judging.back"
      >Back to the last {{ WHAT[state.kind] }}</TextAction
    >
  </section>
  <ScreenCheck v-else-if="state && !checked" :seat="seat" :state="state" />
  <section v-else-if="state && place !== undefined" class="sitting d-flex flex-column">
    <header class="head d-flex align-center ga-4">
      <h1 class="question">{{ state.question }}</h1>
      <span class="end d-flex align-center ga-4">
        <span class="mono nowrap">{{ WHAT[state.kind] }} {{ place + 1 }} of {{ places }}</span>
        <span class="soft nowrap">{{ aboutMinutes(state.seconds_left) }} left</span>
        <v-btn @click="paused = !paused">{{ paused ? "Go on" : "Pause" }}</v-btn>
      </span>
    </header>
    <v-progress-linear
      :model-value="(100 * place) / Math.max(1, places)"
      aria-label="Progress of the sitting"
    />
    <p v-if="waiting && problem" class="bar soft" role="status">
      {{ waiting === 1 ? "1 answer waits" : `${waiting} answers wait` }} for the connection and
      {{ waiting === 1 ? "is" : "are" }} kept by this browser.
    </p>
    <p v-else-if="problem" class="bar rowan" role="alert">{{ problem }}</p>
    <div v-if="paused" class="rest d-flex flex-column align-center justify-center ga-3">
      <p>Paused. What was answered is kept.</p>
      <p class="soft readable">
        Go on later, here or on another device, by this page’s own address. Whoever has it sits in
        your place.
      </p>
    </div>
    <template v-else>
      <JudgePictures
        :key="`${place}`"
        :urls="judging.urls.value"
        :shown="shown"
        :kind="state.kind"
        @loaded="judging.pictureLoaded"
        @say="judging.say"
      />
      <JudgeAnswers
        v-model:kinds="judging.kinds.value"
        :kind="state.kind"
        :because="state.because"
        :said="shown?.answer ?? null"
        :ready="judging.ready.value"
        :first="place === 0"
        @say="judging.say"
        @back="judging.back"
      />
    </template>
  </section>
</template>

<style scoped>
.before {
  padding-top: 40px;
}
.sitting {
  height: 100dvh;
}
.head {
  padding: 6px var(--margin);
  background: var(--sheet);
  min-height: 44px;
}
.question {
  font: 650 17px var(--display);
}
.end {
  margin-left: auto;
}
.nowrap {
  white-space: nowrap;
}
.bar {
  padding: 4px var(--margin);
}
.rest {
  flex: 1;
  padding: var(--margin);
  text-align: center;
}
@media (max-width: 720px) {
  .head {
    flex-wrap: wrap;
    row-gap: 2px;
  }
  .end {
    margin-left: 0;
    width: 100%;
    justify-content: space-between;
  }
}
</style>
