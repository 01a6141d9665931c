<script setup lang="ts">
import { computed } from "vue";

import { useJobChanges } from "./mutations";
import { useNoticeChoice } from "./useWorkNotice";
import { usePageTitle } from "@/shared/lib/useTitle";
import type { Job } from "@/api/types";
import { useSession } from "@/api/session";
import { lasting } from "@/shared/lib/words";
import { useWork } from "./useWork";

const work = useWork();
const { data: session } = useSession();
const { cancel, retry } = useJobChanges();
const notice = useNoticeChoice();
usePageTitle("Queue");
const canEdit = computed(() => session.value?.role !== "viewer");
const active = (job: Job): boolean => job.state === "queued" || job.state === "running";

function left(job: Job): string {
  if (job.state !== "running" || !job.started || job.progress < 0.05) return "";
  const spent = (Date.now() - Date.parse(job.started)) / 1000;
  return `about ${lasting(Math.max(1, (spent * (1 - job.progress)) / job.progress))} left`;
}

function took(job: Job): string {
  if (!job.started || !job.finished) return "";
  return lasting((Date.parse(job.finished) - Date.parse(job.started)) / 1000);
}
</script>

<template>
  <div class="page">
    <div class="page-top">
      <div>
        <h1>Queue</h1>
        <p class="soft">
          {{
            work.active.value ? `${work.active.value} running or waiting` : "Nothing is waiting"
          }}. Below, what ended lately.
        </p>
      </div>
      <p v-if="notice.asks.value" class="row">
        <span class="soft">Tell you when long work is done?</span>
        <TextAction @click="notice.choose(true)">Yes, with a browser notice</TextAction>
        <TextAction @click="notice.choose(false)">No</TextAction>
      </p>
    </div>
    <v-table v-if="work.jobs.value.length" class="block">
      <thead>
        <tr>
          <th scope="col">Work</th>
          <th scope="col">State</th>
          <th scope="col">Time</th>
          <th scope="col"><span class="visually-hidden">Actions</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="job in work.jobs.value" :key="job.id">
          <td>
            <router-link v-if="job.study_id" :to="`/studies/${job.study_id}/bring-in`">{{
              job.label
            }}</router-link>
            <template v-else>{{ job.label }}</template>
            <p v-if="job.problem" class="rowan">{{ job.problem }}</p>
          </td>
          <td class="state">
            {{ job.state }}<template v-if="job.state === 'running'">, {{ job.message }}</template>
            <v-progress-linear
              v-if="job.state === 'running'"
              :model-value="100 * job.progress"
              :aria-label="`${job.label}, share done`"
            />
          </td>
          <td class="mono">{{ left(job) || took(job) }}</td>
          <td>
            <TextAction
              v-if="canEdit && active(job)"
              :aria-label="`Cancel ${job.label}`"
              @click="cancel(job.id)"
            >
              Cancel
            </TextAction>
            <TextAction
              v-else-if="canEdit && (job.state === 'failed' || job.state === 'cancelled')"
              :aria-label="`Retry ${job.label}`"
              @click="retry(job.id)"
            >
              Retry
            </TextAction>
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.state {
  width: 320px;
}
</style>
