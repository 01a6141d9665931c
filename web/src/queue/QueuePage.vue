<script setup lang="ts">
import { computed } from "vue";

import { api, ask } from "@/api/client";
import { type Job, useSession } from "@/api/queries";
import { useAct } from "@/shared/lib/useAct";
import { useWork } from "./useWork";

const work = useWork();
const { data: session } = useSession();
const { act } = useAct();
const canEdit = computed(() => session.value?.role !== "viewer");
const active = (job: Job): boolean => job.state === "queued" || job.state === "running";

function left(job: Job): string {
  if (job.state !== "running" || !job.started || job.progress < 0.05) return "";
  const spent = (Date.now() - Date.parse(job.started)) / 1000;
  return `about ${Math.max(1, Math.round((spent * (1 - job.progress)) / job.progress))} s left`;
}

function took(job: Job): string {
  if (!job.started || !job.finished) return "";
  return `${((Date.parse(job.finished) - Date.parse(job.started)) / 1000).toFixed(1)} s`;
}

const params = (job: Job) => ({ params: { path: { job_id: job.id } } });
const cancel = (job: Job) => act(() => ask(api.POST("/api/jobs/{job_id}/cancel", params(job))));
const retry = (job: Job) => act(() => ask(api.POST("/api/jobs/{job_id}/retry", params(job))));
</script>

<template>
  <div class="page">
    <h1 class="head">Queue</h1>
    <p class="soft">
      {{ work.active.value ? `${work.active.value} at work or waiting` : "Nothing is waiting" }}.
      Below, what ended lately.
    </p>
    <table v-if="work.jobs.value.length" class="plain block">
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
            <button
              v-if="canEdit && active(job)"
              type="button"
              class="link"
              :aria-label="`Cancel ${job.label}`"
              @click="cancel(job)"
            >
              Cancel
            </button>
            <button
              v-else-if="canEdit && (job.state === 'failed' || job.state === 'cancelled')"
              type="button"
              class="link"
              :aria-label="`Try again: ${job.label}`"
              @click="retry(job)"
            >
              Try again
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.head {
  margin: 28px 0 4px;
}
.state {
  width: 320px;
}
</style>
