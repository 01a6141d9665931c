<script setup lang="ts">
// Bodies with their sensors, and the frames each of them took, by scene and ISO.
import { computed, ref } from "vue";

import type { Body, Frame } from "@/api/types";
import { useBodies } from "@/material/cameras/queries";
import { useFrames } from "@/material/frames/queries";
import { useSession } from "@/api/session";
import { useBodyChanges } from "@/material/mutations";
import { usePageTitle } from "@/shared/lib/useTitle";
import { counted, fixed } from "@/shared/lib/words";
import BodiesBeside from "./BodiesBeside.vue";
import BodyDialog from "./BodyDialog.vue";
import MeasuredBlock from "./MeasuredBlock.vue";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";

const { data: bodies, error } = useBodies();
const { data: frames } = useFrames();
const { data: session } = useSession();
const changes = useBodyChanges();
usePageTitle("Cameras");
const canEdit = computed(() => session.value?.role !== "viewer");
const editing = ref<Body>();
const suggested = ref<string>();
const open = ref(false);
const removing = ref<Body>();
const asked = ref(false);

const OTHERS = { scene: "No scene stated", flat: "Evenly lit", dark: "Cap on" } as const;
const taken = computed(() => {
  const by = new Map<string, Frame[]>();
  for (const f of frames.value ?? []) {
    const camera = f.picture.facts?.camera;
    // A made frame keeps its clean one's camera; the body did not take it.
    if (camera && !f.recipe) by.set(camera, [...(by.get(camera) ?? []), f]);
  }
  return by;
});
const strangers = computed(() =>
  [...taken.value.keys()].filter((name) => !bodies.value?.some((b) => b.name === name)).sort(),
);

/** A body's frames as series: one line a scene, from the lowest ISO on. */
function seriesOf(name: string): { scene: string; frames: Frame[] }[] {
  const by = new Map<string, Frame[]>();
  for (const f of taken.value.get(name) ?? []) {
    const scene = f.scene?.name ?? OTHERS[f.kind ?? "scene"];
    by.set(scene, [...(by.get(scene) ?? []), f]);
  }
  const iso = (f: Frame) => f.picture.facts?.iso ?? 0;
  return [...by]
    .map(([scene, list]) => ({ scene, frames: list.sort((a, b) => iso(a) - iso(b)) }))
    .sort((a, b) => a.scene.localeCompare(b.scene));
}

/** One frame of each ISO, with how many there are of it. */
function firstOfEach(list: readonly Frame[]): { frame: Frame; told: string }[] {
  const by = new Map<string, Frame[]>();
  for (const f of list) {
    const iso = f.picture.facts?.iso;
    const told = iso ? `ISO ${iso.toLocaleString("en-GB")}` : f.name;
    by.set(told, [...(by.get(told) ?? []), f]);
  }
  return [...by].flatMap(([told, [frame, ...more]]) =>
    frame ? [{ frame, told: more.length ? `${told} × ${more.length + 1}` : told }] : [],
  );
}

function edit(body?: Body, name?: string): void {
  editing.value = body;
  suggested.value = name;
  open.value = true;
}

function askToRemove(body: Body): void {
  removing.value = body;
  asked.value = true;
}

function remove(): void {
  if (removing.value) void changes.remove(removing.value.id, removing.value.name);
}

function noise(b: Body): string {
  if (b.full_well === null) return "not stated";
  const second =
    b.second_gain_iso === null
      ? ""
      : `, ${b.second_read_noise} e− from ISO ${b.second_gain_iso} on`;
  return `full well ${b.full_well?.toLocaleString("en-GB")} e−, read noise ${b.read_noise ?? "?"} e−${second}`;
}
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Cameras</h1>
        <p class="soft">
          Bodies, their sensors, and what each of them took. A frame finds its body by name.
        </p>
      </div>
      <v-btn v-if="canEdit" @click="edit()">Add body</v-btn>
    </div>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <v-empty-state
      v-else-if="bodies && !bodies.length && !strangers.length"
      title="No bodies yet"
      text="Add a camera body with its sensor, or a frame whose file names its camera."
    />
    <section v-for="b in bodies" :key="b.id" class="block">
      <div class="block-head">
        <h2>{{ b.name }}</h2>
        <span v-if="canEdit" class="end row">
          <TextAction :aria-label="`Edit ${b.name}`" @click="edit(b)"> Edit </TextAction>
          <TextAction :aria-label="`Remove ${b.name}`" @click="askToRemove(b)"> Remove </TextAction>
        </span>
      </div>
      <dl class="facts d-flex flex-wrap mb-2">
        <div>
          <dt class="soft">Sensor</dt>
          <dd class="mono">
            {{ b.width_mm }} × {{ b.height_mm }} mm, crop {{ fixed(b.crop_factor, 2) }}
          </dd>
        </div>
        <div>
          <dt class="soft">Resolution</dt>
          <dd class="mono">{{ b.width }} × {{ b.height }} px, {{ fixed(b.megapixels, 1) }} MP</dd>
        </div>
        <div>
          <dt class="soft">Pixel pitch</dt>
          <dd class="mono">{{ fixed(b.pitch_um, 2) }} µm</dd>
        </div>
        <div>
          <dt class="soft">Finest line pairs</dt>
          <dd class="mono">{{ fixed(b.nyquist, 0) }} lp/mm</dd>
        </div>
        <div>
          <dt class="soft">Colour filters</dt>
          <dd>{{ b.cfa }}</dd>
        </div>
        <div>
          <dt class="soft">Noise, stated</dt>
          <dd>{{ noise(b) }}</dd>
        </div>
      </dl>
      <MeasuredBlock :body="b" :can-edit="canEdit" />
      <v-table v-if="seriesOf(b.name).length">
        <thead>
          <tr>
            <th scope="col" class="scene">Scene</th>
            <th scope="col">Frames, by ISO</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in seriesOf(b.name)" :key="s.scene">
            <td>{{ s.scene }}</td>
            <td>
              <router-link
                v-for="f in firstOfEach(s.frames)"
                :key="f.frame.id"
                :to="`/frames/${f.frame.id}`"
                :aria-label="f.frame.name"
                >{{ f.told }}</router-link
              >
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-else class="soft">No frame on this bench names it as its camera.</p>
    </section>
    <BodiesBeside v-if="bodies && bodies.length > 1" :bodies="bodies" />
    <section v-if="strangers.length" class="block">
      <h2>Named in files, not described yet</h2>
      <ul class="bare pt-2">
        <li v-for="name in strangers" :key="name" class="row py-1">
          {{ name }} <span class="soft">{{ counted(taken.get(name)?.length ?? 0, "frame") }}</span>
          <TextAction v-if="canEdit" @click="edit(undefined, name)"> Add {{ name }} </TextAction>
        </li>
      </ul>
    </section>
    <BodyDialog v-model="open" :body="editing" :suggested="suggested" />
    <ConfirmDialog
      v-model="asked"
      :title="`Remove ${removing?.name}?`"
      text="Its frames stay, and go on naming it as their camera."
      action="Remove"
      @confirmed="remove"
    />
  </div>
</template>

<style scoped>
.facts {
  gap: 8px 40px;
}
.scene {
  width: 260px;
}
td a {
  margin-right: 18px;
}
</style>
