<script setup lang="ts">
import { computed, ref } from "vue";

import { useSession } from "@/api/session";
import { moment } from "@/shared/lib/formats";
import { useStudyContext } from "@/studies/shared/useStudyContext";

import { type Block, type BlockKind, placesOf } from "./blocks";
import { useCommentChanges } from "./mutations";
import { useComments } from "./queries";

const { blocks, kinds } = defineProps<{
  blocks: readonly Block[];
  kinds: readonly BlockKind[];
}>();
const { study, canEdit } = useStudyContext();
const { data: session } = useSession();
const { data } = useComments(() => study.value.id);
const changes = useCommentChanges(() => study.value.id);
const open = computed(() => (data.value ?? []).filter((c) => !c.settled));
const settled = computed(() => (data.value ?? []).filter((c) => c.settled));
const places = computed(() => placesOf(blocks, kinds));
const about = ref("");
const text = ref("");
const mine = (author: string) => author === session.value?.user || session.value?.role === "owner";

async function say(): Promise<void> {
  const said = text.value;
  // Room for the next one at once; what did not get through comes back.
  text.value = "";
  const made = await changes.say({ about: about.value, text: said });
  if (!made) text.value = text.value ? `${said}\n${text.value}` : said;
}
</script>

<template>
  <section class="block" aria-label="Comments">
    <div class="block-head">
      <h2>Comments</h2>
      <span class="soft">For fellow editors; readers see none of them.</span>
    </div>
    <ol v-if="open.length" class="bare">
      <li v-for="c in open" :key="c.id" class="py-2 hair-below">
        <p>
          <strong v-if="c.about">{{ c.about }}: </strong>{{ c.text }}
        </p>
        <p class="soft d-flex ga-3">
          {{ c.author }}, {{ moment(c.created) }}
          <TextAction
            v-if="canEdit"
            :aria-label="`Settle: ${c.text}`"
            @click="changes.settle(c.id, true)"
            >Settle</TextAction
          >
          <TextAction
            v-if="canEdit && mine(c.author)"
            :aria-label="`Delete comment: ${c.text}`"
            @click="changes.remove(c.id)"
            >Delete</TextAction
          >
        </p>
      </li>
    </ol>
    <p v-else class="soft">None open.</p>
    <v-form v-if="canEdit" class="in-grid ga-3 pt-3" aria-label="New comment" @submit.prevent="say">
      <v-select v-model="about" :items="places" label="About" />
      <v-textarea v-model="text" label="Comment" rows="2" maxlength="2000" />
      <v-btn
        type="submit"
        class="justify-self-start"
        :loading="changes.busy.value"
        :disabled="!text.trim()"
        >Add comment</v-btn
      >
    </v-form>
    <details v-if="settled.length" class="pt-3">
      <summary>Settled ({{ settled.length }})</summary>
      <ol class="bare">
        <li v-for="c in settled" :key="c.id" class="py-2 hair-below soft">
          <p>
            <strong v-if="c.about">{{ c.about }}: </strong>{{ c.text }}
          </p>
          <p class="d-flex ga-3">
            {{ c.author }}; settled by {{ c.settled_by }}
            <TextAction
              v-if="canEdit"
              :aria-label="`Open again: ${c.text}`"
              @click="changes.settle(c.id, false)"
              >Open again</TextAction
            >
          </p>
        </li>
      </ol>
    </details>
  </section>
</template>
