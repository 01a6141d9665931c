<script setup lang="ts">
// Make frames with a known truth: a clean frame, made worse by a recipe that is recorded.
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";

import { api, ask } from "@/api/client";
import { useBodies, useFrames, useStepKinds } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { type Sweep, useRecipe } from "./useRecipe";
import { counted, fileKind } from "@/shared/lib/words";
import TileCanvas from "@/viewer/TileCanvas.vue";
import FrameThumb from "@/viewer/FrameThumb.vue";
import RecipeStepRow from "@/shared/ui/RecipeStepRow.vue";
import SweepForm from "./SweepForm.vue";

const WIDTH = 480;
const HEIGHT = 360;
const THUMB = 240;
const props = defineProps<{ id: number }>();
const router = useRouter();
const { data: frames } = useFrames();
const { data: kinds } = useStepKinds();
const { busy, act } = useAct();
const frame = computed(() => frames.value?.find((f) => f.id === props.id));
const picture = computed(() => frame.value?.truth ?? frame.value?.picture);
const draft = useRecipe(
  () => props.id,
  () => kinds.value ?? [],
);
const sweep = ref<Sweep>();
const blinking = ref(false);
const many = computed(() => sweep.value?.values.length ?? 1);
const kindOf = (id: string) => kinds.value?.find((k) => k.id === id);

watch(
  picture,
  (p) => {
    if (p && !draft.spot.value.x) draft.spot.value = { x: p.width / 2, y: p.height / 2 };
  },
  { immediate: true },
);

/** The part that is previewed, as the server cuts it. */
const part = computed(() => {
  const p = picture.value;
  if (!p) return undefined;
  const w = Math.min(WIDTH, p.width);
  const h = Math.min(HEIGHT, p.height);
  const clamp = (v: number, most: number) =>
    Math.min(Math.max(0, Math.round(v)), Math.max(0, most));
  return {
    x: clamp(draft.spot.value.x - WIDTH / 2, p.width - WIDTH),
    y: clamp(draft.spot.value.y - HEIGHT / 2, p.height - HEIGHT),
    w,
    h,
  };
});
const view = computed(() => {
  const r = part.value;
  return r && { x: r.x + r.w / 2, y: r.y + r.h / 2, zoom: window.devicePixelRatio || 1 };
});

function pick(event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const p = picture.value;
  if (!p) return;
  const scale = Math.max(p.width / box.width, p.height / box.height);
  const x = (event.clientX - box.left - (box.width - p.width / scale) / 2) * scale;
  const y = (event.clientY - box.top - (box.height - p.height / scale) / 2) * scale;
  draft.spot.value = {
    x: Math.max(1, Math.min(p.width, x)),
    y: Math.max(1, Math.min(p.height, y)),
  };
}

/** Bodies whose noise is known. */
const { data: bodies } = useBodies();
const noisy = computed(() => (bodies.value ?? []).filter((b) => b.full_well !== null));

function asBody(event: Event, at: number): void {
  const select = event.target as HTMLSelectElement;
  const body = noisy.value.find((b) => b.id === Number(select.value));
  const step = draft.steps.value[at];
  select.value = "";
  if (!body || !step) return;
  step.values.full_well = body.full_well ?? 0;
  step.values.read_noise = body.read_noise ?? 0;
  step.values.second_gain_iso = body.second_gain_iso ?? 0;
  step.values.second_read_noise = body.second_read_noise ?? 0;
}

function add(event: Event): void {
  const select = event.target as HTMLSelectElement;
  draft.add(select.value);
  select.value = "";
}

async function make(): Promise<void> {
  const body = { recipe: draft.recipe.value, sweep: sweep.value };
  const params = { path: { frame_id: props.id } };
  const made = await act(
    () => ask(api.POST("/api/frames/{frame_id}/degradations", { params, body })),
    `${counted(many.value, "frame")} being made; the queue shows how far.`,
  );
  if (made) await router.push("/frames");
}
</script>

<template>
  <div v-if="frame && picture" class="page">
    <p class="back"><router-link to="/frames">Frames</router-link></p>
    <h1>Degrade {{ frame.name }}</h1>
    <p class="soft intro">
      {{ frame.truth ? "Its truth" : "The frame itself, which should be clean," }} is made worse by
      a recipe, and becomes the truth of what is made. The recipe goes with it: the same recipe
      gives the same file.
    </p>
    <p v-if="frame.recipe" class="rowan">
      This frame was made by a recipe itself ({{ frame.made_by }}). Start from the clean one.
    </p>
    <div class="columns">
      <section class="block">
        <div class="block-head">
          <h2>Recipe</h2>
          <label class="end">
            <span class="visually-hidden">Add a step</span>
            <select class="quiet-select" @change="add">
              <option value="">Add a step</option>
              <option v-for="k in kinds" :key="k.id" :value="k.id">{{ k.title }}</option>
            </select>
          </label>
        </div>
        <p v-if="!draft.steps.value.length" class="soft">
          No step yet. Blur comes before noise in a camera, shrinking and JPEG after it.
        </p>
        <template v-for="(step, i) in draft.steps.value" :key="i">
          <RecipeStepRow
            v-if="kindOf(step.kind)"
            v-model="draft.steps.value[i]!"
            :kind="kindOf(step.kind)!"
            :number="i + 1"
            :first="i === 0"
            :last="i === draft.steps.value.length - 1"
            @move="(by) => draft.move(i, by)"
            @remove="draft.steps.value.splice(i, 1)"
          >
            <label v-if="step.kind === 'sensor_noise' && noisy.length">
              <span class="visually-hidden">Noise of a body</span>
              <select class="quiet-select" @change="asBody($event, i)">
                <option value="">As a body</option>
                <option v-for="b in noisy" :key="b.id" :value="b.id">{{ b.name }}</option>
              </select>
            </label>
          </RecipeStepRow>
        </template>
        <label class="seed">
          <span class="soft">Seed of all that is random</span>
          <input
            v-model.number="draft.seed.value"
            type="number"
            min="0"
            max="4294967295"
            step="1"
          />
        </label>
        <SweepForm v-model="sweep" :steps="draft.steps.value" :kinds="kinds ?? []" />
        <v-btn
          variant="flat"
          :loading="busy"
          :disabled="!draft.steps.value.length || !!draft.problem.value || !!frame.recipe"
          @click="make"
        >
          Make {{ many === 1 ? "the frame" : `${many} frames` }}
        </v-btn>
      </section>
      <section class="block">
        <div class="block-head">
          <h2>Preview</h2>
          <span class="soft">{{ fileKind(picture.facts!) }}</span>
        </div>
        <div class="where">
          <button
            type="button"
            class="pick"
            aria-label="Choose the place of the preview"
            @click="pick"
          >
            <FrameThumb :picture="picture" :label="`${frame.name}, whole frame`" :width="THUMB" />
          </button>
          <p class="soft">
            Click where to look. Noise has its true size here, but other grains than in the made
            frame. Hold the preview to see the clean frame in its place.
          </p>
        </div>
        <p v-if="draft.problem.value" class="rowan" role="alert">{{ draft.problem.value }}</p>
        <div
          v-if="part && view"
          class="stage"
          :style="{ width: `${part.w}px`, height: `${part.h}px` }"
          @pointerdown="blinking = true"
          @pointerup="blinking = false"
          @pointerleave="blinking = false"
        >
          <TileCanvas :picture="picture" :view="view" :label="`${frame.name}, clean`" />
          <img
            v-if="draft.shown.value"
            v-show="!blinking"
            :src="draft.shown.value"
            :alt="`${frame.name}, degraded`"
            draggable="false"
          />
          <span class="tag"
            >{{ draft.shown.value && !blinking ? "degraded" : "clean" }}, 100 % of the frame</span
          >
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.back {
  padding-top: 16px;
}
h1 {
  margin: 6px 0 4px;
}
.intro {
  max-width: 760px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(420px, 1fr) 480px;
  gap: 0 40px;
}
.seed {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding-top: 14px;
}
.seed input {
  font: 12.5px var(--mono);
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  padding: 4px 7px;
  width: 130px;
}
.where {
  display: flex;
  gap: 16px;
  margin-bottom: 12px;
}
.pick {
  border: 0;
  padding: 0;
  background: none;
  cursor: crosshair;
}
.stage {
  position: relative;
  background: var(--surround);
  overflow: hidden;
  touch-action: none;
}
.stage img {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  image-rendering: pixelated;
}
.tag {
  position: absolute;
  left: 0;
  bottom: 0;
  background: rgb(0 0 0 / 70%);
  color: #fff;
  padding: 2px 8px;
  font-size: 12.5px;
}
</style>
