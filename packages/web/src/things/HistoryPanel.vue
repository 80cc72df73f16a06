<script setup lang="ts">
import { listHistory } from '@kindred/contract/things/things';
import { changeWords } from '@kindred/words/changes';
import { eventWords } from '@kindred/words/events';
import MoreRows from '../platform/MoreRows.vue';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { useTime } from '../platform/time.ts';
import { settings } from '../platform/settings.ts';

const props = defineProps<{ type: string; id: string }>();
const time = useTime();
const { items, hasMore, more } = usePages(
  () => [settings.projectId, 'history', props.type, props.id],
  (after) =>
    call(listHistory, {
      params: { projectId: settings.projectId },
      query: { type: props.type, id: props.id, ...(after && { after }) },
    }),
);
</script>

<template>
  <ol class="history">
    <li v-for="happening in items" :key="happening.id">
      <time class="mono quiet">{{ time.moment(happening.at) }}</time>
      <span>{{ happening.actor?.name ?? 'The application' }}</span>
      <b>{{ eventWords(happening) }}</b>
      <span class="quiet">{{ changeWords(happening.before, happening.after).join(' · ') }}</span>
    </li>
  </ol>
  <MoreRows :has-more="hasMore" @more="more" />
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
@media (max-width: 700px) {
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 8px;
  }
}
</style>
