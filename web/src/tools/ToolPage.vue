<script setup lang="ts">
// One tool: its facts, prices and releases.
import { computed, ref } from "vue";
import { useRouter } from "vue-router";

import type { Shape } from "@/api/client";
import { useSession } from "@/api/session";
import { useTools } from "@/tools/queries";
import { useDraft } from "@/shared/lib/useDraft";
import { useVersioned } from "@/shared/lib/useVersioned";
import ConfirmDialog from "@/shared/ui/ConfirmDialog.vue";
import TheirText from "@/shared/ui/TheirText.vue";
import NotFound from "@/shared/ui/NotFound.vue";
import { usePageTitle } from "@/shared/lib/useTitle";

import { useToolChanges } from "./mutations";
import ReleaseForm from "./ReleaseForm.vue";
import ToolFacts from "./ToolFacts.vue";

const props = defineProps<{ id?: number }>();
const router = useRouter();
const { data: tools } = useTools();
const { data: session } = useSession();
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
const changes = useToolChanges(headers, guarded);

async function save(): Promise<void> {
  const made = await changes.save(props.id, {
    ...facts.value,
    largest: facts.value.largest || null,
  });
  if (!made || props.id) return;
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
  if (tool.value && (await changes.remove(tool.value))) await router.push("/tools");
}
usePageTitle(() => tool.value?.name ?? (props.id ? "Tool" : "Add tool"));
</script>

<template>
  <NotFound
    v-if="id && tools && !tool"
    what="tool"
    back="/tools"
    problem="It may have been removed."
  />
  <div v-else class="page">
    <template v-if="tools">
      <div class="page-top">
        <h1>
          <router-link to="/tools" class="plain-link crumb">Tools</router-link>
          {{ tool?.name ?? "Add tool" }}
        </h1>
      </div>
      <ToolFacts
        v-if="!id || tool"
        v-model="facts"
        :can-edit="canEdit"
        :busy="changes.busy.value"
        @save="save"
      >
        <template v-if="theirs" #above>
          <TheirText :lines="differing(theirs)" @take="takeTheirs" @keep="save" />
        </template>
        <TextAction v-if="tool && !tool.used" @click="asked = true">Remove tool</TextAction>
        <span v-else-if="tool" class="soft"
          >Treatments use this tool, so it cannot be removed.</span
        >
      </ToolFacts>
      <section v-if="tool" class="block">
        <div class="block-head">
          <h2>Releases</h2>
          <span v-if="builtIn" class="soft"
            >A built-in method has one release with fixed settings.</span
          >
        </div>
        <p v-if="!tool.releases.length" class="soft">No release yet.</p>
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
        <v-btn v-else-if="canEdit && !builtIn" class="mt-3" @click="adding = true"
          >Add release</v-btn
        >
      </section>
      <ConfirmDialog
        v-model="asked"
        :title="`Remove ${tool?.name}?`"
        text="Its facts, prices and releases go with it. No treatment uses it."
        action="Remove"
        @confirmed="remove"
      />
    </template>
  </div>
</template>
