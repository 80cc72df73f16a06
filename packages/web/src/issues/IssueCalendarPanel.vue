<script setup lang="ts">
/** Issues by the day when they are due. */
import { listIssues, type Issue } from '@kindred/contract/issues/issues';
import { isWorkingDay } from '@kindred/core/platform/working-days';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { ChevronLeft, ChevronRight } from '@lucide/vue';
import dayjs from 'dayjs';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { isOverdue } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { monthBeside, weeksOf } from './calendar.ts';
import type { IssueViewState } from './issue-view.ts';

const props = defineProps<{ view: IssueViewState }>();
const project = useProject();
const thisMonth = dayjs().format('YYYY-MM');
const today = dayjs().format('YYYY-MM-DD');
const month = computed(() => (/^\d{4}-\d\d$/.test(props.view.query('month')) ? props.view.query('month') : thisMonth));
const go = (to: string): void => void props.view.set({ month: to === thisMonth ? undefined : to });
const weeks = computed(() => weeksOf(month.value));
const off = computed(() => new Set(project.view?.project.holidays ?? []));
const { items } = usePages(
  () => [project.projectId, 'issue', 'calendar', month.value, props.view.filters.value],
  (after) =>
    call(listIssues, {
      params: project.params,
      query: {
        ...props.view.filters.value,
        ...{ dueFrom: weeks.value[0]![0]!, dueTo: weeks.value.at(-1)![6]!, sort: 'dueOn', limit: 200 },
        ...(after && { after }),
      },
    }),
  { all: true },
);
const byDay = computed(() => {
  const days = new Map<string, Issue[]>();
  for (const issue of items.value) days.set(issue.dueOn!, [...(days.get(issue.dueOn!) ?? []), issue]);
  return days;
});
const SHOWN = 4;
const look = (issue: Issue): string => {
  if (!PENDING_ISSUE_STATUSES.includes(issue.status)) return 'done';
  return isOverdue(issue.dueOn) ? 'late' : '';
};
</script>

<template>
  <div data-help="issues/calendar">
    <div class="row head">
      <button class="button-link" aria-label="The month before" @click="go(monthBeside(month, -1))">
        <ChevronLeft :size="16" />
      </button>
      <h2>{{ dayjs(`${month}-01`).format('MMMM YYYY') }}</h2>
      <button class="button-link" aria-label="The month after" @click="go(monthBeside(month, 1))">
        <ChevronRight :size="16" />
      </button>
      <button v-if="month !== thisMonth" class="button-link" @click="go(thisMonth)">This month</button>
    </div>
    <table class="month" :aria-label="`Issues due in ${dayjs(`${month}-01`).format('MMMM YYYY')}`">
      <thead>
        <tr>
          <th v-for="day in weeks[0]" :key="day">{{ dayjs(day).format('ddd') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="week in weeks" :key="week[0]">
          <td
            v-for="day in week"
            :key="day"
            :class="{ off: !isWorkingDay(day, off), beside: !day.startsWith(month), today: day === today }"
          >
            <time :datetime="day" class="mono">{{ Number(day.slice(8)) }}</time>
            <RouterLink
              v-for="issue in (byDay.get(day) ?? []).slice(0, SHOWN)"
              :key="issue.id"
              :class="look(issue)"
              :to="{ name: 'issue', params: { ...project.params, issueId: issue.id } }"
              ><span class="mono">{{ issue.number }}</span> {{ issue.title }}</RouterLink
            >
            <button
              v-if="(byDay.get(day)?.length ?? 0) > SHOWN"
              class="button-link"
              @click="view.set({ as: 'table', dueFrom: day, dueTo: day })"
            >
              {{ byDay.get(day)!.length - SHOWN }} more
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.head {
  gap: 10px;
  margin-bottom: 8px;
}
.month {
  width: 100%;
  table-layout: fixed;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 500;
  color: var(--graphite);
  padding: 2px 6px;
}
td {
  height: 92px;
  vertical-align: top;
  padding: 4px 6px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
}
td.off {
  background: var(--wash);
}
td.beside time {
  opacity: 0.5;
}
td.today time {
  font-weight: 700;
  color: var(--action);
}
td a {
  display: block;
  margin-top: 3px;
  padding: 1px 5px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 12px;
  border-left: 3px solid var(--info);
  background: var(--paper);
  color: var(--ink);
}
td a.late {
  border-color: var(--needs-you);
}
td a.done {
  border-color: var(--hairline);
  color: var(--graphite);
  text-decoration: line-through;
}
@media (max-width: 700px) {
  td {
    height: 60px;
    padding: 2px;
  }
}
</style>
