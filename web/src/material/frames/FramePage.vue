<script setup lang="ts">
// One frame: looked at to the pixel, its facts, its truth, where it is used, and the target found
// in it.
import { computed, defineAsyncComponent, ref } from "vue";
import { useRouter } from "vue-router";

import { Problem } from "@/api/client";
import NotFound from "@/shared/ui/NotFound.vue";
import { useFrame, useFrames } from "@/material/frames/queries";
import { useSession } from "@/api/session";
import { usePageTitle } from "@/shared/lib/useTitle";
import { counted } from "@/shared/lib/words";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import { askForExport, useFrameChanges } from "./mutations";
import NameField from "@/shared/ui/NameField.vue";
import PrintPanel from "@/material/prints/PrintPanel.vue";
import FactsList from "./FactsList.vue";
import FrameViewer from "@/viewer/FrameViewer.vue";
import MadeDownload from "@/shared/ui/MadeDownload.vue";
import KindPick from "./KindPick.vue";
import ScenePick from "./ScenePick.vue";
import FrameTerms from "@/material/terms/FrameTerms.vue";
import TruthPanel from "./TruthPanel.vue";

// Charts are heavy; most frames show none.
const FindingPanel = defineAsyncComponent(() => import("@/material/targets/FindingPanel.vue"));

const props = defineProps<{ id: number }>();
const router = useRouter();
const { data: frame, error } = useFrame(() => props.id);
const { data: frames } = useFrames();
const { data: session } = useSession();
const changes = useFrameChanges();
const canEdit = computed(() => session.value?.role !== "viewer");
const asked = ref(false);
const made = computed(() => (frames.value ?? []).filter((f) => f.made_from === props.id));
const clean = computed(() => frames.value?.find((f) => f.id === frame.value?.made_from));

const ENDINGS = [
  ["tif", "TIFF, 16 bit, sRGB"],
  ["png", "PNG, 16 bit, sRGB"],
] as const;

const remove = (): Promise<unknown> => changes.remove(props.id, () => router.push("/frames"));
usePageTitle(() => frame.value?.name ?? "Frame");
</script>

<template>
  <NotFound
    v-if="error && !frame && error instanceof Problem && error.status === 404"
    what="frame"
    back="/frames"
  />
  <div v-else class="page">
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <v-skeleton-loader v-else-if="!frame" type="heading, image" />
    <template v-if="frame">
      <div class="top row middle py-2">
        <router-link to="/frames" class="plain-link crumb">Frames</router-link>
        <NameField
          v-if="canEdit"
          class="name"
          :name="frame.name"
          label="Name of the frame"
          @change="(name) => changes.rename(id, name)"
        />
        <h1 :class="{ 'visually-hidden': canEdit }">{{ frame.name }}</h1>
        <span class="end row middle">
          <a :href="`/api/pictures/${frame.picture.id}/original`">Download original</a>
          <MadeDownload
            v-if="frame.picture.state === 'ready'"
            :label="`${frame.name} for tools`"
            action="Download for tools"
            :choices="ENDINGS"
            :ask="(ending) => askForExport(frame!.picture.id, ending)"
            :address="(ending) => `/api/pictures/${frame!.picture.id}/as/${ending}`"
          />
          <router-link
            v-if="canEdit && !frame.recipe && frame.picture.state === 'ready'"
            :to="`/frames/${frame.id}/degrade`"
            >Degrade</router-link
          >
          <TextAction v-if="canEdit" @click="asked = true">Remove</TextAction>
        </span>
      </div>
      <p v-if="frame.picture.state === 'refused'" class="rowan">{{ frame.picture.problem }}</p>
      <p v-else-if="!frame.picture.facts" class="soft">
        Being read: decoding, facts, display copy.
      </p>
      <template v-else>
        <div style="--columns: minmax(0, 1fr) 340px" class="columns in-grid ga-6 folds">
          <FrameViewer :picture="frame.picture" :truth="frame.truth" :label="frame.name" />
          <FactsList :facts="frame.picture.facts" :file-name="frame.file_name" />
          <PrintPanel :width="frame.picture.width" :height="frame.picture.height" />
        </div>
        <div style="--columns: 1.3fr 1fr 1fr" class="blocks in-grid gr-0 gc-8 columns folds">
          <section class="block">
            <h2 class="mb-2">Truth</h2>
            <TruthPanel :frame="frame" :others="frames ?? []" :can-edit="canEdit" />
          </section>
          <section class="block">
            <h2 class="mb-2">Scene</h2>
            <ScenePick v-if="frame.kind === 'scene'" :frame="frame" :can-edit="canEdit" />
            <KindPick
              v-if="frame.picture.facts.developed"
              class="mt-2"
              :kind="frame.kind"
              :can-edit="canEdit"
              @change="(kind) => changes.tellKind(id, kind)"
            />
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
            <h2 class="mb-2">Used in</h2>
            <ul v-if="frame.used_in.length" class="bare">
              <li v-for="s in frame.used_in" :key="s.id">
                <router-link :to="`/studies/${s.id}`">{{ s.question }}</router-link>
              </li>
            </ul>
            <p v-else class="soft">No study yet.</p>
            <div class="pt-4">
              <h2 class="mb-2">Licence and credit</h2>
              <FrameTerms :frames="[frame]" :can-edit="canEdit" />
            </div>
          </section>
        </div>
        <section class="block">
          <div class="block-head">
            <h2 class="mb-2">Target</h2>
            <span v-if="!frame.finding" class="soft">
              None found. Sheets <router-link to="/targets">painted here</router-link> are found
              automatically.
            </span>
            <TextAction v-if="canEdit" class="end" @click="changes.lookForTarget(id)"
              >Look again</TextAction
            >
          </div>
          <FindingPanel v-if="frame.finding" :finding="frame.finding" :system="frame.system" />
        </section>
      </template>
      <ConfirmDialog
        v-model="asked"
        :title="`Remove ${frame.name} from the bench?`"
        text="Only a frame that no study uses can be removed."
        action="Remove"
        @confirmed="remove"
      />
    </template>
  </div>
</template>

<style scoped>
.name {
  flex: 1 1 260px;
}
.name :deep(input) {
  font-size: 22px;
  min-height: 34px;
}
</style>
