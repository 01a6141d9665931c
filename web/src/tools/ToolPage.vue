<script setup lang="ts">
// One tool: its facts, prices and releases.
import { computed, ref } from "vue";
import { useRouter } from "vue-router";

import { api, ask, type Shape } from "@/api/client";
import { useSession, useTools } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useDraft } from "@/shared/lib/useDraft";
import { useVersioned } from "@/shared/lib/useVersioned";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import TheirText from "@/shared/ui/TheirText.vue";
import ReleaseForm from "./ReleaseForm.vue";
import ToolFacts from "./ToolFacts.vue";

const props = defineProps<{ id?: number }>();
const router = useRouter();
const { data: tools } = useTools();
const { data: session } = useSession();
const { busy, act } = useAct();
const tool = computed(() => tools.value?.find((t) => t.id === props.id));
const builtIn = computed(() => tool.value?.releases.some((r) => r.method) ?? false);
const canEdit = computed(() => session.value?.role !== "viewer");
const adding = ref(false);
const asked = ref(false);

type ToolIn = Shape["ToolIn"];
const blank = (): ToolIn => ({
  name: "",
  kind: "",
  maker: "",
  licence: "",
  platforms: [],
  ways: [],
  takes: "any",
  largest: null,
  batch: null,
  notes: "",
  disclosure: "",
  prices: [],
});
const {
  draft: facts,
  tag,
  follow,
} = useDraft<ToolIn>(`tool-${props.id ?? "new"}`, blank, () => tool.value);
const { theirs, headers, guarded } = useVersioned<ToolIn>(tag);

async function save(): Promise<void> {
  const id = props.id;
  const body = { ...facts.value, largest: Number(facts.value.largest) || null };
  const params = { path: { tool_id: id ?? 0 } };
  const made = await act(
    () =>
      guarded(() =>
        id
          ? ask(api.PUT("/api/tools/{tool_id}", { params, body, headers: headers() }))
          : ask(api.POST("/api/tools", { body })),
      ),
    "Facts saved.",
  );
  if (!made || id) return;
  follow();
  await router.replace(`/tools/${made.id}`);
}

/** What of somebody else's facts is not what stands in the form. */
function differing(other: ToolIn): { label: string; text: string }[] {
  const words = (value: unknown): string =>
    Array.isArray(value)
      ? value
          .map((v: unknown) =>
            typeof v === "object" && v ? Object.values(v).join(" ") : String(v),
          )
          .join(", ")
      : String(value ?? "");
  return (Object.keys(other) as (keyof ToolIn)[])
    .filter((f) => JSON.stringify(other[f]) !== JSON.stringify(facts.value[f]))
    .map((f) => ({ label: f.charAt(0).toUpperCase() + f.slice(1), text: words(other[f]) }));
}

function takeTheirs(): void {
  theirs.value = null;
  follow();
}

async function remove(): Promise<void> {
  const path = { tool_id: props.id ?? 0 };
  const name = tool.value?.name ?? "";
  const gone = await act(
    () => ask(api.DELETE("/api/tools/{tool_id}", { params: { path } })).then(() => true),
    `${name} removed.`,
  );
  if (gone) await router.push("/tools");
}
</script>

<template>
  <div class="page">
    <p class="back"><router-link to="/tools">All tools</router-link></p>
    <p v-if="id && tools && !tool" class="rowan">There is no such tool, or it was removed.</p>
    <template v-else>
      <h1>{{ tool?.name ?? "New tool" }}</h1>
      <ToolFacts v-if="!id || tool" v-model="facts" :can-edit="canEdit" :busy="busy" @save="save">
        <template v-if="theirs" #above>
          <TheirText :lines="differing(theirs)" @take="takeTheirs" @keep="save" />
        </template>
        <button v-if="tool && !tool.used" type="button" class="link" @click="asked = true">
          Remove the tool
        </button>
        <span v-else-if="tool" class="soft">It is part of treatments and stays with them.</span>
      </ToolFacts>
      <section v-if="tool" class="block">
        <div class="block-head">
          <h2>Releases</h2>
          <span v-if="builtIn" class="soft"
            >A built-in method has one, and what it asks for is fixed.</span
          >
        </div>
        <p v-if="!tool.releases.length" class="soft">None is written down yet.</p>
        <ReleaseForm
          v-for="r in tool.releases"
          :key="r.id"
          :tool="tool"
          :release="r"
          :can-edit="canEdit && !builtIn"
          :is-owner="session?.role === 'owner'"
        />
        <ReleaseForm
          v-if="adding"
          :tool="tool"
          can-edit
          :is-owner="session?.role === 'owner'"
          @done="adding = false"
        />
        <v-btn v-else-if="canEdit && !builtIn" class="add" @click="adding = true"
          >Write a release down</v-btn
        >
      </section>
      <ConfirmDialog
        v-model="asked"
        :title="`Remove ${tool?.name}?`"
        text="Its facts, prices and releases go with it. No treatment uses it."
        action="Remove it"
        @confirmed="remove"
      />
    </template>
  </div>
</template>

<style scoped>
.back {
  padding-top: 22px;
}
.add {
  margin-top: 14px;
}
</style>
