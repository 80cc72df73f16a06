<script setup lang="ts">
/** Issues as a table: what waits for one first, then all; or by groups. */
import { groupIssues, type IssueFilters, type IssueSort } from '@kindred/contract/issues/issues';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { useProject } from '../portfolio/store.ts';
import type { ChosenIssues } from './chosen-issues.ts';
import { filterOfGroup, type IssueViewState } from './issue-view.ts';
import IssueSectionPanel from './IssueSectionPanel.vue';

const props = defineProps<{ view: IssueViewState; chosen: ChosenIssues }>();
const project = useProject();
const key = (...rest: (string | object)[]) => [project.projectId, 'issue', ...rest] as never;
const by = computed(() => props.view.groupBy.value);
const { data: groups } = useQuery({
  key: () => key('groups', by.value ?? '', props.view.filters.value),
  query: () => call(groupIssues, { params: project.params, query: { ...props.view.filters.value, by: by.value! } }),
  enabled: () => by.value !== undefined,
});
/** How many wait for one, of those that fit. */
const parts = (['answer', 'verify'] as const).map((part) => {
  const { data } = useQuery({
    key: () => key('groups', 'part', part, props.view.filters.value),
    query: () =>
      call(groupIssues, { params: project.params, query: { ...props.view.filters.value, part, by: 'status' } }),
    enabled: () => by.value === undefined && !props.view.query('part'),
  });
  return { part, count: computed(() => (data.value ?? []).reduce((sum, { count }) => sum + count, 0)) };
});
const WORDS = { answer: 'For you to answer', verify: 'For you to verify' };

interface Section {
  name: string;
  heading?: { word: string; count: number | undefined; opened: boolean };
  filters: IssueFilters;
}
const OPENED = 60;
const sections = computed((): Section[] => {
  const filters = props.view.filters.value;
  if (by.value) {
    const group = by.value;
    let rows = 0;
    return (groups.value ?? []).map(({ value, label, count }) => ({
      name: `${group}/${value}`,
      heading: { word: label || 'none', count, opened: (rows += count) <= OPENED },
      filters: { ...filters, ...filterOfGroup(group, value) },
    }));
  }
  const mine = props.view.query('part') ? [] : parts.filter(({ count }) => count.value > 0);
  return [
    ...mine.map(({ part, count }) => ({
      name: part,
      heading: { word: WORDS[part], count: count.value, opened: true },
      filters: { ...filters, part },
    })),
    {
      name: 'all',
      ...(mine.length && { heading: { word: 'All that fit', count: undefined, opened: true } }),
      filters,
    },
  ];
});

const found = ref<number>();
const HEADS: { word: string; sort?: IssueSort; right?: boolean; wide?: boolean }[] = [
  { word: 'No.', sort: 'number', right: true },
  { word: 'Issue', sort: 'title' },
  { word: 'Type', sort: 'type' },
  { word: 'Priority', sort: 'priority' },
  { word: 'Status', sort: 'status' },
  { word: 'Answers' },
  { word: 'Due', sort: 'dueOn' },
  { word: 'Raised', sort: 'createdAt', wide: true },
  { word: 'Last word', sort: 'updatedAt' },
];
const sorted = (sort: IssueSort | undefined): 'ascending' | 'descending' | undefined => {
  const { sort: by, descending } = props.view.order.value;
  if (!sort || by !== sort) return undefined;
  return descending ? 'descending' : 'ascending';
};
const isEmpty = computed(() => (by.value ? groups.value?.length === 0 : found.value === 0));
</script>

<template>
  <EmptyPlace v-if="isEmpty" title="No issue fits"
    >An issue is raised at a place: in the scene, on a sheet, from a file, or here without one.</EmptyPlace
  >
  <div v-show="!isEmpty" v-arrow-keys="'tr.clickable'" class="scrolled">
    <table class="plain-table" aria-label="Issues">
      <thead>
        <tr>
          <th></th>
          <th
            v-for="head in HEADS"
            :key="head.word"
            :class="{ right: head.right, 'wide-only': head.wide }"
            :aria-sort="sorted(head.sort)"
          >
            <button v-if="head.sort" class="button-link" @click="view.sortBy(head.sort)">
              {{ head.word
              }}<span v-if="sorted(head.sort)" aria-hidden="true">{{
                sorted(head.sort) === 'descending' ? ' ↓' : ' ↑'
              }}</span>
            </button>
            <template v-else>{{ head.word }}</template>
          </th>
        </tr>
      </thead>
      <IssueSectionPanel
        v-for="section in sections"
        :key="section.name"
        :heading="section.heading"
        :filters="section.filters"
        :order="view.order.value"
        :chosen="chosen"
        @loaded="section.name === 'all' && (found = $event)"
      />
    </table>
  </div>
</template>

<style scoped>
.scrolled {
  overflow-x: auto;
}
th .button-link {
  color: inherit;
  font: inherit;
}
@media (max-width: 900px) {
  .wide-only {
    display: none;
  }
}
</style>
