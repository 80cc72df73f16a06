<script setup lang="ts">
import { CircleCheck, CircleX, Download, LoaderCircle, RotateCcw, X } from '@lucide/vue';
import type { LongJob } from '@kindred/contract/platform/jobs';
import type { Component } from 'vue';
import { RouterLink } from 'vue-router';
import { useJobs } from '../platform/jobs-store.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

/** Where long work is found again: its progress, its end, and what it made. */
const jobs = useJobs();
const project = useProject();
const time = useTime();
const ICONS: Record<LongJob['status'], Component> = {
  waiting: LoaderCircle,
  running: LoaderCircle,
  done: CircleCheck,
  failed: CircleX,
  cancelled: X,
};
const percent = ({ progress }: LongJob): number => Math.round(progress * 100);
</script>

<template>
  <el-popover v-if="jobs.jobs.length" trigger="click" :width="380" placement="bottom-end">
    <template #reference>
      <button class="jobs" :aria-label="`Your work in the background: ${jobs.running.length} running`">
        <LoaderCircle v-if="jobs.running.length" :size="17" :stroke-width="1.5" class="turning" />
        <CircleCheck v-else :size="17" :stroke-width="1.5" />
      </button>
    </template>
    <ul>
      <li v-for="job in jobs.jobs" :key="job.id">
        <component :is="ICONS[job.status]" :size="15" :stroke-width="1.5" />
        <div>
          <RouterLink :to="`/projects/${project.projectId}/${job.path}`">{{ job.name }}</RouterLink>
          <el-progress
            v-if="job.status === 'running' || job.status === 'waiting'"
            :percentage="percent(job)"
            :aria-label="`Progress of ${job.name}`"
          />
          <small v-else class="quiet">{{
            job.note || `${job.status}, ${time.moment(job.endedAt ?? job.createdAt)}`
          }}</small>
        </div>
        <button
          v-if="job.status === 'running' || job.status === 'waiting'"
          :aria-label="`Cancel ${job.name}`"
          title="Cancel"
          @click="jobs.cancel(job)"
        >
          <X :size="15" />
        </button>
        <button
          v-else-if="job.fileName"
          :aria-label="`Download ${job.name}`"
          title="Download"
          @click="jobs.download(job)"
        >
          <Download :size="15" />
        </button>
        <button v-else :aria-label="`Try ${job.name} again`" title="Try again" @click="jobs.tryAgain(job)">
          <RotateCcw :size="15" />
        </button>
      </li>
    </ul>
  </el-popover>
</template>

<style scoped>
.jobs {
  display: flex;
  min-width: 28px;
  padding: 6px;
  border: 0;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.turning {
  animation: turn 1.6s linear infinite;
}
@keyframes turn {
  to {
    transform: rotate(360deg);
  }
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 380px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: 20px 1fr auto;
  gap: 8px;
  align-items: center;
  padding: 7px 0;
  border-bottom: 1px solid var(--wash);
}
li div {
  display: grid;
}
li button {
  display: flex;
  border: 0;
  padding: 6px;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
</style>
