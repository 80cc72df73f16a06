<script setup lang="ts">
import { DESK_PILES, showDesk, type DeskItem } from '@kindred/contract/insight/insight';
import { useQuery } from '@pinia/colada';
import dayjs from 'dayjs';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { useSession } from '../identity/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { day, isOverdue } from '../platform/time.ts';

/** What is mine, waits for me, is overdue and is new for me, in all my projects. */
const session = useSession();
const { data } = useQuery({ key: ['projects', 'desk'], query: () => call(showDesk) });
const WORDS: Record<string, string> = {
  overdue: 'Overdue',
  'waiting for me': 'Waiting for me',
  mine: 'Mine',
  'new for me': 'New for me',
};
const pileOf = ({ pile, dueOn }: DeskItem): string =>
  pile === 'waiting for me' && isOverdue(dueOn) ? 'overdue' : pile;
const piles = computed(() =>
  ['overdue', ...DESK_PILES]
    .map((pile) => ({ pile, items: (data.value ?? []).filter((item) => pileOf(item) === pile) }))
    .filter(({ items }) => items.length),
);
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>My desk</h1>
      <span class="quiet">{{ session.me?.name }}, in all projects</span>
    </div>
    <EmptyPlace v-if="data && !data.length" title="Your desk is clear"
      >Issues, reviews, transmittals and decisions that wait for you come here.</EmptyPlace
    >
    <div class="piles">
      <section v-for="{ pile, items } in piles" :key="pile">
        <h2 :class="{ overdue: pile === 'overdue' }">
          {{ WORDS[pile] }} <span class="mono quiet">{{ items.length }}</span>
        </h2>
        <RouterLink v-for="item in items" :key="`${item.type}${item.id}`" :to="item.link" class="item">
          <span class="type">{{ item.type }}</span>
          <span>
            <b>{{ item.title }}</b>
            <small class="quiet">{{ [item.project, item.note].filter(Boolean).join(' · ') }}</small>
          </span>
          <span v-if="item.dueOn" class="mono" :class="isOverdue(item.dueOn) ? 'overdue' : 'quiet'"
            >due {{ day(item.dueOn) }}</span
          >
          <span v-else class="mono quiet">{{ dayjs(item.at).format('D MMM') }}</span>
        </RouterLink>
      </section>
    </div>
  </div>
</template>

<style scoped>
.piles {
  columns: 2 460px;
  column-gap: 26px;
}
section {
  break-inside: avoid;
  margin-bottom: 20px;
}
h2 {
  margin-bottom: 6px;
}
.overdue {
  color: var(--needs-you);
}
.item {
  display: grid;
  grid-template-columns: 84px 1fr auto;
  gap: 10px;
  padding: 7px 10px;
  border: 1px solid var(--hairline);
  border-bottom-width: 0;
  background: var(--sheet);
  color: var(--ink);
  font-size: 12px;
}
.item:last-child {
  border-bottom-width: 1px;
}
.item:hover {
  background: var(--paper);
  text-decoration: none;
}
.item b {
  font-weight: 500;
  display: block;
}
.type {
  color: var(--graphite);
}
</style>
