<script setup lang="ts">
// Before the first picture: what is kept, and a short check that the screen shows steps near black
// and near white (after ITU-R BT.500-15, how the room and the screen are set up).
import { useWindowSize } from "@vueuse/core";
import { computed, ref } from "vue";

import type { Shape } from "@/api/client";
import { useScreen } from "@/viewer/screen";

import { useTellScreen } from "./mutations";
import { aboutMinutes } from "./stage";

const props = defineProps<{ seat: string; state: Shape["SeatOut"] }>();
const STEPS = 8;
const dark = ref<number | null>(null);
const light = ref<number | null>(null);
const distance = ref<number | null>(null);
const { width, height } = useWindowSize();
const { ppi } = useScreen();
const { busy, tell } = useTellScreen(props.seat);
const codes = [...Array(STEPS).keys()];
const darkOf = (i: number): string => `rgb(${[3, 3, 3].map((v) => v * (i + 1)).join()})`;
const lightOf = (i: number): string => `rgb(${[3, 3, 3].map((v) => 255 - v * (i + 1)).join()})`;
const few = computed(() => (dark.value ?? STEPS) < 4 || (light.value ?? STEPS) < 4);
const WHAT = { pairs: "pairs", single: "pictures", order: "rows" };

function begin(): void {
  const told: Record<string, number> = {
    width: width.value,
    height: height.value,
    ratio: window.devicePixelRatio,
  };
  if (dark.value !== null) told.dark_steps = dark.value;
  if (light.value !== null) told.light_steps = light.value;
  if (ppi.value !== undefined) told.ppi = ppi.value;
  if (distance.value !== null) told.distance_cm = distance.value;
  void tell(told);
}
</script>

<template>
  <section class="page readable stack before">
    <h1>{{ state.question }}</h1>
    <p>
      {{ state.places }} {{ WHAT[state.kind] }}, {{ aboutMinutes(state.seconds_left) }}. You are not
      told whose pictures they are. You can pause, and go on later by this page’s address.
    </p>
    <p class="soft">
      Kept are your answers, how long each took, and what you enter here; nothing else of you.
    </p>
    <h2>Your screen</h2>
    <p>Dim the room a little. How many squares can you tell from their surround?</p>
    <div class="check near-black" aria-hidden="true">
      <span v-for="i in codes" :key="i" :style="{ background: darkOf(i) }" />
    </div>
    <div class="check near-white" aria-hidden="true">
      <span v-for="i in codes" :key="i" :style="{ background: lightOf(i) }" />
    </div>
    <v-form class="d-flex flex-wrap ga-3" @submit.prevent="begin">
      <NumberField v-model="dark" label="On black" :min="0" :max="STEPS" suffix="of 8" />
      <NumberField v-model="light" label="On white" :min="0" :max="STEPS" suffix="of 8" />
      <NumberField v-model="distance" label="You sit" :min="10" :max="500" suffix="cm away" />
      <p v-if="few" class="soft w-100" role="status">
        Few steps are seen. Turn the screen’s brightness, or the light in the room, until more are;
        if they stay few, go on: it is kept with your answers.
      </p>
      <div class="w-100"><v-btn variant="flat" type="submit" :loading="busy">Begin</v-btn></div>
    </v-form>
  </section>
</template>

<style scoped>
.before {
  padding-top: 40px;
}
.check {
  display: flex;
  gap: 14px;
  padding: 14px;
  width: fit-content;
  max-width: 100%;
}
.check span {
  width: 24px;
  height: 24px;
}
.near-black {
  background: #000;
}
.near-white {
  background: #fff;
}
.v-form > .v-input {
  flex: 0 0 150px;
}
</style>
