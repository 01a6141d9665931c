<script setup lang="ts">
// One frame: looked at to the pixel, its facts, its truth, where it is used, and the target found in it.
import { computed, defineAsyncComponent, ref } from "vue";
import { useRouter } from "vue-router";

import { api, ask } from "@/api/client";
import { useFrame, useFrames, useSession } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { counted } from "@/shared/lib/words";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import FactsList from "./FactsList.vue";
import FrameViewer from "@/viewer/FrameViewer.vue";
import MadeDownload from "@/shared/ui/MadeDownload.vue";
import ScenePick from "./ScenePick.vue";
import TruthPanel from "./TruthPanel.vue";

// Charts are heavy; most frames show none.
const FindingPanel = defineAsyncComponent(() => import("@/material/targets/FindingPanel.vue"));

const props = defineProps<{ id: number }>();
const router = useRouter();
const { data: frame, error } = useFrame(() => props.id);
const { data: frames } = useFrames();
const { data: session } = useSession();
const { act } = useAct();
const canEdit = computed(() => session.value?.role !== "viewer");
const asked = ref(false);
const params = computed(() => ({ path: { frame_id: props.id } }));
const made = computed(() => (frames.value ?? []).filter((f) => f.made_from === props.id));
const clean = computed(() => frames.value?.find((f) => f.id === frame.value?.made_from));

function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim();
  if (!name || name === frame.value?.name) return;
  void act(() =>
    ask(api.PATCH("/api/frames/{frame_id}", { params: params.value, body: { name } })),
  );
}

const ENDINGS = [
  ["tif", "TIFF, 16 bit, sRGB"],
  ["png", "PNG, 16 bit, sRGB"],
] as const;

async function askForExport(picture_id: number, ending: string): Promise<boolean> {
  const params = { path: { picture_id, ending } };
  return (await ask(api.POST("/api/pictures/{picture_id}/as/{ending}", { params }))).ready;
}

function look(): void {
  void act(
    () => ask(api.POST("/api/frames/{frame_id}/target", { params: params.value })),
    "Being looked for.",
  );
}

async function remove(): Promise<void> {
  const gone = await act(async () => {
    await ask(api.DELETE("/api/frames/{frame_id}", { params: params.value }));
    await router.push("/frames");
    return true;
  }, "Removed.");
  if (!gone) asked.value = false;
}
</script>

<template>
  <div class="page">
    <p class="back"><router-link to="/frames">Frames</router-link></p>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <template v-if="frame">
      <div class="top">
        <input
          v-if="canEdit"
          :value="frame.name"
          class="name"
          aria-label="Name of the frame"
          @change="rename"
        />
        <h1 v-else>{{ frame.name }}</h1>
        <span class="acts">
          <a :href="`/api/pictures/${frame.picture.id}/original`">Download the original</a>
          <MadeDownload
            v-if="frame.picture.state === 'ready'"
            :label="`${frame.name} for tools`"
            action="Get for tools"
            :choices="ENDINGS"
            :ask="(ending) => askForExport(frame!.picture.id, ending)"
            :address="(ending) => `/api/pictures/${frame!.picture.id}/as/${ending}`"
          />
          <router-link
            v-if="canEdit && !frame.recipe && frame.picture.state === 'ready'"
            :to="`/frames/${frame.id}/degrade`"
            >Degrade</router-link
          >
          <button v-if="canEdit" type="button" class="link" @click="asked = true">Remove</button>
        </span>
      </div>
      <p v-if="frame.picture.state === 'refused'" class="rowan">{{ frame.picture.problem }}</p>
      <p v-else-if="!frame.picture.facts" class="soft">
        Being taken in: decoding, reading facts, making the display copy.
      </p>
      <template v-else>
        <div class="columns">
          <FrameViewer :picture="frame.picture" :truth="frame.truth" :label="frame.name" />
          <FactsList :facts="frame.picture.facts" :file-name="frame.file_name" />
        </div>
        <div class="blocks">
          <section class="block">
            <h2>Truth</h2>
            <TruthPanel :frame="frame" :others="frames ?? []" :can-edit="canEdit" />
          </section>
          <section class="block">
            <h2>Scene</h2>
            <ScenePick :frame="frame" :can-edit="canEdit" />
            <p v-if="clean">
              Made from <router-link :to="`/frames/${clean.id}`">{{ clean.name }}</router-link>
            </p>
            <p v-if="made.length">
              {{ counted(made.length, "frame") }} made from it:
              <template v-for="(m, i) in made" :key="m.id"
                >{{ i ? "; " : ""
                }}<router-link :to="`/frames/${m.id}`">{{ m.name }}</router-link></template
              >
            </p>
          </section>
          <section class="block">
            <h2>Where it is used</h2>
            <ul v-if="frame.used_in.length" class="uses">
              <li v-for="s in frame.used_in" :key="s.id">
                <router-link :to="`/studies/${s.id}`">{{ s.question }}</router-link>
              </li>
            </ul>
            <p v-else class="soft">In no study yet.</p>
          </section>
        </div>
        <section class="block">
          <div class="block-head">
            <h2>Target</h2>
            <span v-if="!frame.finding" class="soft">
              None is seen in it. Those <router-link to="/targets">painted here</router-link> are
              found by themselves.
            </span>
            <button v-if="canEdit" type="button" class="link end" @click="look">Look again</button>
          </div>
          <FindingPanel v-if="frame.finding" :finding="frame.finding" />
        </section>
      </template>
      <ConfirmDialog
        v-model="asked"
        :title="`Remove ${frame.name} from the bench?`"
        text="Only a frame that no study uses can be removed."
        action="Remove it"
        @confirmed="remove"
      />
    </template>
  </div>
</template>

<style scoped>
.back {
  padding-top: 16px;
}
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 28px;
  align-items: baseline;
  margin: 6px 0 12px;
}
.name {
  font: 650 30px/1.15 var(--display);
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: inherit;
  flex: 1;
  min-width: 300px;
  padding: 0;
}
.name:hover,
.name:focus {
  border-bottom-color: var(--rule);
}
.acts {
  display: flex;
  align-items: baseline;
  gap: 20px;
  margin-left: auto;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 24px;
}
.blocks {
  display: grid;
  grid-template-columns: 1.3fr 1fr 1fr;
  gap: 0 32px;
}
.blocks h2 {
  margin-bottom: 8px;
}
.uses {
  padding-left: 18px;
}
</style>
