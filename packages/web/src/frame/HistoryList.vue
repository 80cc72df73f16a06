<script setup lang="ts">
import { listHistory, type Happening } from '@kindred/contract/portfolio/portfolio';
import { useQuery } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ type: string; id: string }>();
const project = useProject();
const time = useTime();
const { data } = useQuery({
  key: () => [project.projectId, 'history', props.type, props.id],
  query: () => call(listHistory, { params: project.params, query: { type: props.type, id: props.id } }),
});
const shown = (value: unknown): string => (value === null || value === '' ? 'nothing' : String(value));

/** `status: open → in hand`, for what differs. */
function details({ before, after }: Happening): string {
  const was = (before ?? {}) as Record<string, unknown>;
  return Object.entries((after ?? {}) as Record<string, unknown>)
    .filter(([key, value]) => typeof value !== 'object' && value !== was[key] && !key.endsWith('Id') && value !== '')
    .map(([key, value]) => (key in was ? `${key}: ${shown(was[key])} → ${shown(value)}` : `${key}: ${shown(value)}`))
    .join(' · ');
}
</script>

<template>
  <ol class="history">
    <li v-for="happening in data" :key="happening.id">
      <time class="mono quiet">{{ time.moment(happening.at) }}</time>
      <span>{{ happening.actor?.name ?? 'The server' }}</span>
      <b>{{ happening.verb }}</b>
      <span class="quiet">{{ details(happening) }}</span>
    </li>
  </ol>
</template>

<style scoped>
.history {
  list-style: none;
  margin: 8px 0;
  padding: 0;
  font-size: 12px;
}
li {
  display: grid;
  grid-template-columns: 140px 140px 140px 1fr;
  gap: 10px;
  padding: 4px 0;
  border-bottom: 1px solid var(--wash);
}
</style>
