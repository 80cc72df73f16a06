<script setup lang="ts">
/** Issues as cards in columns by status: dragged, or moved by Shift and an arrow. */
import { groupIssues, listIssues, type Issue } from '@kindred/contract/issues/issues';
import { actionBetween, ISSUE_STATUSES, type IssueStatus } from '@kindred/core/issues/states';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { VueDraggable, type SortableEvent } from 'vue-draggable-plus';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { sayProblem } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useRelated } from '../things/related.ts';
import { columnBeside } from './board.ts';
import IssueCard from './IssueCard.vue';
import type { IssueViewState } from './issue-view.ts';
import { ISSUE_SIGNS } from './signs.ts';
import { useIssueSettings } from './store.ts';
import { useTakeStep } from './take-step.ts';

const props = defineProps<{ view: IssueViewState }>();
const project = useProject();
const related = useRelated();
const router = useRouter();
const kept = useIssueSettings();
const takeStep = useTakeStep();
const mayMove = computed(() => project.may('issues', 'add'));

const { data: counts } = useQuery({
  key: () => [project.projectId, 'issue', 'groups', 'board', props.view.filters.value] as never,
  query: () => call(groupIssues, { params: project.params, query: { ...props.view.filters.value, by: 'status' } }),
});
const countOf = (status: IssueStatus): number => counts.value?.find(({ value }) => value === status)?.count ?? 0;
const wanted = (status: IssueStatus): boolean => {
  const asked = props.view.query('status');
  return !asked || asked.split(',').includes(status);
};
const columns = ISSUE_STATUSES.map((status) => ({
  status,
  pages: usePages(
    () => [project.projectId, 'issue', 'board', status, props.view.filters.value, props.view.order.value],
    async (after) =>
      wanted(status)
        ? call(listIssues, {
            params: project.params,
            query: {
              ...props.view.filters.value,
              ...props.view.order.value,
              status,
              limit: 100,
              ...(after && { after }),
            },
          })
        : { items: [], next: null },
  ),
}));

const said = ref('');
/** What is dragged stands in two columns until it is known whether it may; then all is asked for anew. */
const turn = ref(0);
async function move(issue: Issue, to: IssueStatus): Promise<void> {
  const action = actionBetween(issue.status, to);
  if (!action)
    sayProblem(new Error(`An issue that is ${issue.status} cannot become ${to} at once. It stays where it was.`));
  else if (await takeStep(issue, action)) said.value = `Issue ${issue.number} is ${to}.`;
  turn.value++;
}
function dropped({ item }: SortableEvent, to: IssueStatus): void {
  const issue = columns
    .flatMap(({ pages }) => pages.items.value)
    .find(({ id }) => id === (item as HTMLElement).dataset.issue);
  if (issue) void move(issue, to);
}
async function byKey(issue: Issue, way: -1 | 1): Promise<void> {
  const beside = columnBeside(issue.status, way);
  if (!beside || !mayMove.value) return;
  await move(issue, beside.status);
  document.querySelector<HTMLElement>(`[data-issue="${issue.id}"]`)?.focus();
}
const open = ({ id }: Issue) => router.push({ name: 'issue', params: { ...project.params, issueId: id } });
</script>

<template>
  <div v-arrow-keys="'.place'" class="board" data-help="issues/board">
    <section v-for="{ status, pages } in columns" :key="status" :aria-label="`Issues that are ${status}`">
      <h2>
        <span :class="ISSUE_SIGNS[status]">{{ status }}</span> <span class="mono quiet">{{ countOf(status) }}</span>
      </h2>
      <VueDraggable
        :key="turn"
        :model-value="pages.items.value"
        class="cards"
        group="issues"
        :sort="false"
        :disabled="!mayMove"
        :animation="120"
        @add="dropped($event, status)"
      >
        <div
          v-for="issue in pages.items.value"
          :key="issue.id"
          class="place"
          :data-issue="issue.id"
          role="link"
          tabindex="-1"
          :aria-label="`Issue ${issue.number}, ${issue.title}, ${issue.status}`"
          @click="open(issue)"
          @focus="related.select({ type: 'issue', id: issue.id })"
          @keydown.enter="open(issue)"
          @keydown.shift.left.prevent.stop="byKey(issue, -1)"
          @keydown.shift.right.prevent.stop="byKey(issue, 1)"
        >
          <IssueCard :issue="issue" :bars="kept.bars(issue.priority)" :blocks="kept.blocks(issue.priority)" />
        </div>
      </VueDraggable>
      <el-button v-if="pages.hasMore.value" size="small" @click="pages.more()">Show more</el-button>
    </section>
    <p class="said-only" role="status">{{ said }}</p>
  </div>
  <p v-if="mayMove" class="quiet hint">
    Drag a card to another column, or press Shift and an arrow. Whether it may go there is a rule of its type.
  </p>
</template>

<style scoped>
.board {
  display: grid;
  grid-template-columns: repeat(5, minmax(190px, 1fr));
  gap: 12px;
  overflow-x: auto;
  align-items: start;
}
section {
  display: grid;
  gap: 8px;
}
.cards {
  display: grid;
  align-content: start;
  gap: 8px;
  min-height: 160px;
  max-height: calc(100vh - 260px);
  overflow-y: auto;
  padding: 6px;
  background: var(--wash);
  border-radius: 3px;
}
.place {
  cursor: pointer;
}
.hint {
  margin-top: 10px;
}
</style>
