<script setup lang="ts">
import { listDeliveryWeeks } from '@kindred/contract/register/exchange';
import { useQuery } from '@pinia/colada';
import dayjs from 'dayjs';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import ChartFigure from '../platform/ChartFigure.vue';
import { useProject } from '../portfolio/store.ts';

/** Is delivery steady, and do names get better? */
const props = defineProps<{ teams: { id: string; name: string; colour: string }[] }>();
const project = useProject();
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'weeks'],
  query: () => call(listDeliveryWeeks, { params: project.params }),
});
const WEEKS = 12;
const weeks = computed(() => {
  const monday = new Date();
  monday.setUTCDate(monday.getUTCDate() - ((monday.getUTCDay() + 6) % 7));
  return Array.from({ length: WEEKS }, (_, i) => {
    const day = new Date(monday);
    day.setUTCDate(monday.getUTCDate() - 7 * (WEEKS - 1 - i));
    return day.toISOString().slice(0, 10);
  });
});
const sum = (week: string, of: (row: NonNullable<typeof data.value>[number]) => number): number =>
  (data.value ?? []).filter((row) => row.week === week).reduce((total, row) => total + of(row), 0);
const labels = computed(() => weeks.value.map((week) => dayjs(week).format('D MMM')));
const delivered = computed(() =>
  props.teams
    .map(({ id, name, colour }) => ({
      label: name,
      colour,
      values: weeks.value.map((week) => sum(week, ({ teamId, files }) => (teamId === id ? files : 0))),
    }))
    .filter(({ values }) => values.some(Boolean)),
);
const misnamed = computed(() => [
  {
    label: 'Names that did not conform',
    colour: '#B4502D',
    values: weeks.value.map((week) => {
      const files = sum(week, (row) => row.files);
      return files ? Math.round((100 * sum(week, (row) => row.misnamed)) / files) : 0;
    }),
  },
]);
</script>

<template>
  <section>
    <h2>Files delivered per week</h2>
    <ChartFigure kind="bar" stacked :labels="labels" :series="delivered" unit="files" />
    <h2>Names that did not conform on arrival</h2>
    <ChartFigure kind="line" :labels="labels" :series="misnamed" unit="%" />
  </section>
</template>
