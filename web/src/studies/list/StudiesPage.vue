<script setup lang="ts">
import { computed, ref } from "vue";
import { useRouter } from "vue-router";

import type { Shape } from "@/api/client";
import { useSession } from "@/api/session";
import type { StudyRow } from "@/api/types";
import { useAddress } from "@/shared/lib/useAddress";
import { usePageTitle } from "@/shared/lib/useTitle";
import DropZone from "@/shared/ui/DropZone.vue";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import QuietSelect from "@/shared/ui/QuietSelect.vue";

import { foundStudies, type Order, type State } from "./finder";
import { useStudies as useStudyChanges } from "./mutations";
import { useStudies } from "./queries";
import StudyLine from "./StudyLine.vue";

type Factor = Shape["StudyIn"]["factor"];
const FACTORS: readonly Factor[] = [
  "tool",
  "release",
  "mode",
  "setting",
  "order of steps",
  "body",
  "ISO",
];
const STATES = [
  { value: "", title: "current" },
  { value: "open", title: "not published" },
  { value: "published", title: "published" },
  { value: "archived", title: "archived" },
];
const ORDERS = [
  { value: "newest", title: "newest first" },
  { value: "oldest", title: "oldest first" },
  { value: "question", title: "question" },
];
const router = useRouter();
const { data: studies, error } = useStudies();
const { data: session } = useSession();
const changes = useStudyChanges();
const { inAddress } = useAddress();
const canEdit = computed(() => session.value?.role !== "viewer");
const asking = ref(false);
const question = ref("");
const factor = ref<Factor>("tool");
const words = inAddress("search");
const state = inAddress("state");
const varies = inAddress("varies");
const order = inAddress("sort", () => "newest");
const factors = [
  { value: "", title: "anything" },
  ...FACTORS.map((f) => ({ value: f as string, title: f })),
];
const found = computed(() =>
  foundStudies(studies.value ?? [], {
    words: words.value,
    state: state.value as State,
    factor: varies.value,
    order: order.value as Order,
  }),
);
const removing = ref<StudyRow>();
const sure = ref(false);
usePageTitle("Studies");

async function add(): Promise<void> {
  const made = await changes.add({ question: question.value, factor: factor.value });
  if (made) await router.push(`/studies/${made.id}/set-up`);
}

async function duplicate(study: StudyRow): Promise<void> {
  const made = await changes.duplicate(study);
  if (made) await router.push(`/studies/${made.id}/set-up`);
}

async function takePlan(file: File): Promise<void> {
  const made = await changes.takePlan(file);
  if (made) await router.push(`/studies/${made.study}/set-up`);
}

function askToRemove(study: StudyRow): void {
  removing.value = study;
  sure.value = true;
}
const asked = (text: string): true | string => !!text.trim() || "A study needs a question.";
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Studies</h1>
        <p class="soft">
          A study is one question put to the test: frames, contenders, what they made of them, and
          the answer.
        </p>
      </div>
      <div v-if="canEdit && !asking" class="d-flex ga-4 align-center">
        <DropZone
          small
          label="Begin from a plan"
          accept=".toml"
          :busy="changes.busy.value"
          @files="([file]) => file && takePlan(file)"
        />
        <v-btn variant="flat" @click="asking = true">Add study</v-btn>
      </div>
    </div>
    <v-form v-if="asking" class="ask block d-flex flex-wrap ga-3 align-end" @submit.prevent="add">
      <v-text-field
        v-model="question"
        label="Question the study answers"
        placeholder="Is release 6 better than release 5?"
        autofocus
        maxlength="200"
        :rules="[asked]"
        validate-on="submit"
      />
      <v-select v-model="factor" :items="FACTORS" label="What varies" max-width="190" />
      <v-btn
        type="submit"
        variant="flat"
        height="40"
        :loading="changes.busy.value"
        :disabled="!question.trim()"
        >Add</v-btn
      >
      <v-btn variant="text" height="40" @click="asking = false">Cancel</v-btn>
      <p class="soft note w-100">
        One thing varies and everything else is held still: that makes a comparison fair.
      </p>
    </v-form>
    <p v-if="error" class="rowan">{{ error.message }}</p>
    <v-skeleton-loader v-else-if="!studies" type="list-item-three-line@3" />
    <v-empty-state
      v-else-if="!studies.length"
      title="No studies yet"
      text="A study starts with a question and the one thing that varies. Then come frames, contenders, and what each contender made of every frame."
    >
      <template #actions>
        <v-btn to="/guide/first-study">Read how a first study goes</v-btn>
      </template>
    </v-empty-state>
    <template v-else>
      <div class="toolbar mt-2" role="search">
        <v-text-field
          v-model="words"
          width="260"
          class="quiet find"
          type="search"
          label="Search"
          prefix="Search"
          placeholder="question, tool"
          hide-details
        />
        <QuietSelect v-model="state" label="Show" :items="STATES" />
        <QuietSelect v-model="varies" label="Varies" :items="factors" />
        <QuietSelect v-model="order" label="Sort by" :items="ORDERS" />
        <span class="soft end" role="status">{{ found.length }} of {{ studies.length }}</span>
      </div>
      <StudyLine
        v-for="study in found"
        :key="study.id"
        :study="study"
        :can-edit="canEdit"
        :owns="session?.role === 'owner'"
        @duplicate="duplicate(study)"
        @archive="(on) => changes.archive(study, on)"
        @remove="askToRemove(study)"
      />
      <p v-if="!found.length" class="soft py-4">No study fits. Change the search or the filters.</p>
    </template>
    <ConfirmDialog
      v-model="sure"
      title="Delete this study?"
      :text="`“${removing?.question}” goes with its contenders, outputs, patches and readings. Frames and files stay on the bench.`"
      action="Delete"
      @confirmed="removing && changes.remove(removing)"
    />
  </div>
</template>

<style scoped>
.ask > :first-child {
  flex: 1 1 380px;
}
</style>
