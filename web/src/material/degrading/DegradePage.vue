<script setup lang="ts">
// Make frames with a known truth: a clean frame, made worse by a recipe that is recorded.
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";

import { useBodies } from "@/material/cameras/queries";
import { useFrames } from "@/material/frames/queries";
import { useStepKinds } from "@/material/degrading/queries";
import { useDegrading } from "@/material/mutations";
import { usePageTitle } from "@/shared/lib/useTitle";
import AddMenu from "@/shared/ui/AddMenu.vue";
import { type Sweep, useRecipe } from "./useRecipe";
import { fileKind } from "@/shared/lib/words";
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
const { busy, make: degrade } = useDegrading();
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

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function nudge(event: KeyboardEvent): void {
  const [arrow, p] = [ARROWS[event.key], picture.value];
  if (!arrow || !p) return;
  event.preventDefault();
  const { x, y } = draft.spot.value;
  draft.spot.value = {
    x: Math.max(1, Math.min(p.width, x + (arrow[0] * WIDTH) / 4)),
    y: Math.max(1, Math.min(p.height, y + (arrow[1] * HEIGHT) / 4)),
  };
}

/** Bodies whose noise is known. */
const { data: bodies } = useBodies();
const noisy = computed(() => (bodies.value ?? []).filter((b) => b.full_well !== null));

function asBody(id: number, at: number): void {
  const body = noisy.value.find((b) => b.id === id);
  const step = draft.steps.value[at];
  if (!body || !step) return;
  step.values.full_well = body.full_well ?? 0;
  step.values.read_noise = body.read_noise ?? 0;
  step.values.second_gain_iso = body.second_gain_iso ?? 0;
  step.values.second_read_noise = body.second_read_noise ?? 0;
}

async function make(): Promise<void> {
  const body = { recipe: draft.recipe.value, sweep: sweep.value };
  if (await degrade(props.id, body, many.value)) await router.push("/frames");
}
usePageTitle(() => `Degrade ${frame.value?.name ?? ""}`);
</script>

<template>
  <div v-if="frame && picture" class="page">
    <div class="page-top">
      <h1>
        <router-link to="/frames" class="plain-link crumb">Frames</router-link> Degrade
        {{ frame.name }}
      </h1>
    </div>
    <p class="soft prose">
      {{ frame.truth ? "Its truth" : "The frame itself, which should be clean," }} is degraded by a
      recipe and becomes the truth of the result. The recipe is kept: the same recipe gives the same
      file.
    </p>
    <p v-if="frame.recipe" class="rowan">
      This frame was itself made by a recipe ({{ frame.made_by }}). Start from the clean one.
    </p>
    <div style="--columns: minmax(0, 1fr) 480px" class="columns in-grid folds gc-8">
      <section class="block">
        <div class="block-head">
          <h2>Recipe</h2>
          <AddMenu class="end" label="Add step" :kinds="kinds ?? []" @add="draft.add" />
        </div>
        <p v-if="!draft.steps.value.length" class="soft">
          No steps yet. In a camera blur comes before noise; shrinking and JPEG come after it.
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
            <AddMenu
              v-if="step.kind === 'sensor_noise' && noisy.length"
              label="Use a body’s noise"
              :kinds="noisy.map((b) => ({ id: String(b.id), title: b.name }))"
              @add="asBody(Number($event), i)"
            />
          </RecipeStepRow>
        </template>
        <NumberField
          max-width="200"
          class="py-2"
          :model-value="draft.seed.value"
          label="Random seed"
          :precision="0"
          @update:model-value="draft.seed.value = $event ?? draft.seed.value"
        />
        <SweepForm v-model="sweep" :steps="draft.steps.value" :kinds="kinds ?? []" />
        <v-btn
          variant="flat"
          :loading="busy"
          :disabled="!draft.steps.value.length || !!draft.problem.value || !!frame.recipe"
          @click="make"
        >
          Make {{ many === 1 ? "frame" : `${many} frames` }}
        </v-btn>
      </section>
      <section class="block">
        <div class="block-head">
          <h2>Preview</h2>
          <span class="soft">{{ fileKind(picture.facts!) }}</span>
        </div>
        <div class="where d-flex ga-4 mb-3">
          <div
            class="pick"
            role="application"
            tabindex="0"
            aria-label="Place of the preview: click, or move it with the arrow keys"
            @click="pick"
            @keydown="nudge"
          >
            <FrameThumb :picture="picture" :label="`${frame.name}, whole frame`" :width="THUMB" />
          </div>
          <p class="soft">
            Click where to look. Noise has its true size here, with other grains than in the result.
            Hold the preview to see the clean frame.
          </p>
        </div>
        <p v-if="draft.problem.value" class="rowan" role="alert">{{ draft.problem.value }}</p>
        <div
          v-if="part && view"
          class="stage position-relative on-surround overflow-hidden still mw-100"
          :style="{ width: `${part.w}px`, height: `${part.h}px` }"
          @pointerdown="blinking = true"
          @pointerup="blinking = false"
          @pointerleave="blinking = false"
        >
          <TileCanvas :picture="picture" :view="view" :label="`${frame.name}, clean`" />
          <img
            v-if="draft.shown.value"
            v-show="!blinking"
            class="over-all pixelated"
            :src="draft.shown.value"
            :alt="`${frame.name}, degraded`"
            draggable="false"
          />
          <span class="tag position-absolute py-1 px-2 small"
            >{{ draft.shown.value && !blinking ? "degraded" : "clean" }}, 100 % of the frame</span
          >
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.pick {
  cursor: crosshair;
}
.tag {
  left: 0;
  bottom: 0;
  background: rgb(0 0 0 / 70%);
  color: #fff;
}
</style>
