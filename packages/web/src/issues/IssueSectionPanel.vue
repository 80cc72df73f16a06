<script setup lang="ts">
/** A part of the table of issues: its heading, and its rows once it is open. */
import { listIssues, type Issue, type IssueFilters, type IssueSort } from '@kindred/contract/issues/issues';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { useRelated } from '../things/related.ts';
import type { ChosenIssues } from './chosen-issues.ts';
import IssueRow from './IssueRow.vue';
import { useIssueSettings } from './store.ts';

const props = defineProps<{
  /** None for the table as a whole. */
  heading?: { word: string; count: number | undefined; opened: boolean };
  filters: IssueFilters;
  order: { sort?: IssueSort; descending?: boolean };
  chosen: ChosenIssues;
}>();
const emit = defineEmits<{ loaded: [count: number] }>();
const project = useProject();
const related = useRelated();
const router = useRouter();
const time = useTime();
const kept = useIssueSettings();
const open = ref(props.heading?.opened ?? true);
const {
  items: issues,
  loaded,
  hasMore,
  more,
} = usePages(
  () => [project.projectId, 'issue', 'list', props.filters, props.order, String(open.value)],
  async (after) =>
    open.value
      ? call(listIssues, {
          params: project.params,
          query: { ...props.filters, ...props.order, limit: 50, ...(after && { after }) },
        })
      : { items: [], next: null },
);
watch([loaded, issues], () => loaded.value && emit('loaded', issues.value.length), { immediate: true });
const allChosen = computed(() => issues.value.length > 0 && issues.value.every(({ id }) => props.chosen.has(id)));
const show = ({ id }: Issue) => router.push({ name: 'issue', params: { ...project.params, issueId: id } });
</script>

<template>
  <tbody>
    <tr v-if="heading" class="heading">
      <td class="tick">
        <input
          v-if="open && issues.length"
          type="checkbox"
          :checked="allChosen"
          :aria-label="`Choose all of ${heading.word}`"
          @change="chosen.toggleAll(issues)"
        />
      </td>
      <td colspan="9">
        <button class="button-link" :aria-expanded="open" @click="open = !open">
          <span aria-hidden="true">{{ open ? '▾' : '▸' }}</span> <b>{{ heading.word }}</b>
          <span v-if="heading.count !== undefined" class="mono quiet count">{{ heading.count }}</span>
        </button>
      </td>
    </tr>
    <template v-if="open">
      <IssueRow
        v-for="issue in issues"
        :key="issue.id"
        :issue="issue"
        :chosen="chosen.has(issue.id)"
        :bars="kept.bars(issue.priority)"
        :blocks="kept.blocks(issue.priority)"
        :said="time.short(issue.updatedAt)"
        @open="show(issue)"
        @toggle="chosen.toggle(issue)"
        @point="related.select({ type: 'issue', id: issue.id })"
      />
      <tr v-if="hasMore">
        <td colspan="10"><el-button size="small" @click="more()">Show more</el-button></td>
      </tr>
    </template>
  </tbody>
</template>

<style scoped>
.heading,
.heading td {
  background: var(--wash);
}
.count {
  margin-left: 6px;
}
.tick {
  width: 28px;
}
.button-link {
  color: var(--ink);
}
</style>
