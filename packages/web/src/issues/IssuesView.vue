<script setup lang="ts">
import { startBcfExport } from '@kindred/contract/bcf/bcf';
import { listIssues } from '@kindred/contract/issues/issues';
import { BCF_VERSIONS, type BcfVersion } from '@kindred/core/bcf/bcf-file';
import { ISSUE_STATUSES, type IssueStatus } from '@kindred/core/issues/states';
import { Flag } from '@lucide/vue';
import { refDebounced } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useFirstAsSelected, useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import PersonBadge from '../platform/PersonBadge.vue';
import { call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { usePages } from '../platform/pages.ts';
import { attempt } from '../platform/say.ts';
import { day, isOverdue, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import RaiseIssueDialog from './RaiseIssueDialog.vue';
import { ISSUE_SIGNS, PRIORITY_BARS } from './signs.ts';

const project = useProject();
const session = useSession();
const related = useRelated();
const time = useTime();
const route = useRoute();
const router = useRouter();
const raising = ref(false);
const { query } = useRouteQuery();
const set = (changes: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...changes } });
const typed = ref(query('q'));
const words = refDebounced(typed, 200);
watch(words, (q) => void set({ q: q.trim() || undefined }));
const filters = computed(() => ({
  ...(query('q') && { q: query('q') }),
  ...(query('status') && { status: query('status') as IssueStatus }),
  ...(query('mine') && session.me && { assigneeId: session.me.id }),
}));
const {
  items: issues,
  loaded,
  hasMore,
  more,
} = usePages(
  () => [project.projectId, 'issue', 'list', filters.value],
  (after) =>
    call(listIssues, { params: project.params, query: { ...filters.value, limit: 50, ...(after && { after }) } }),
);
useFirstAsSelected('issue', issues);
const jobs = useJobs();
const exportBcf = (version: BcfVersion): Promise<boolean> =>
  attempt(async () =>
    jobs.follow(await call(startBcfExport, { params: project.params, body: { version, ...filters.value } })),
  );
const open = (issueId: string) => router.push({ name: 'issue', params: { ...project.params, issueId } });
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Issues</h1>
      <el-input v-model="typed" placeholder="Search titles" clearable style="width: 200px" aria-label="Search issues" />
      <el-select
        :model-value="query('status')"
        clearable
        placeholder="Status"
        style="width: 120px"
        aria-label="Status"
        @update:model-value="set({ status: $event || undefined })"
        ><el-option v-for="status in ISSUE_STATUSES" :key="status" :value="status" :label="status"
      /></el-select>
      <el-checkbox :model-value="!!query('mine')" @update:model-value="set({ mine: $event ? '1' : undefined })"
        >I answer</el-checkbox
      >
      <span class="spread" />
      <el-dropdown v-if="issues.length" trigger="click" data-help="issues/bcf" @command="exportBcf">
        <el-button>Export BCF</el-button>
        <template #dropdown
          ><el-dropdown-menu
            ><el-dropdown-item v-for="version in BCF_VERSIONS.toReversed()" :key="version" :command="version"
              >BCF {{ version }}</el-dropdown-item
            ></el-dropdown-menu
          ></template
        >
      </el-dropdown>
      <el-button v-if="project.may('issues', 'add')" type="primary" @click="raising = true"
        ><Flag :size="15" style="margin-right: 5px" /> Raise issue</el-button
      >
    </div>
    <EmptyPlace v-if="loaded && !issues.length" title="No issue fits"
      >An issue is raised at a place: in the scene, on a sheet, or here without one.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th class="right">No.</th>
          <th>Issue</th>
          <th>Type</th>
          <th>Priority</th>
          <th>Status</th>
          <th>Answers</th>
          <th>Due</th>
          <th>Last word</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="issue in issues"
          :key="issue.id"
          class="clickable"
          tabindex="0"
          @click="open(issue.id)"
          @keydown.enter="open(issue.id)"
          @mouseenter="related.select({ type: 'issue', id: issue.id })"
        >
          <td class="mono right">{{ issue.number }}</td>
          <td>
            <b>{{ issue.title }}</b><span v-if="issue.comments" class="quiet">
              · {{ issue.comments }} {{ issue.comments === 1 ? 'comment' : 'comments' }}</span
            >
          </td>
          <td>{{ issue.type }}</td>
          <td>
            <span class="mono" :class="{ blocking: issue.priority === 'blocking' }" :title="issue.priority">{{
              PRIORITY_BARS[issue.priority]
            }}</span>
          </td>
          <td>
            <span :class="ISSUE_SIGNS[issue.status]">{{ issue.status }}</span>
          </td>
          <td>
            <PersonBadge v-if="issue.assignee" :person="issue.assignee" /><span v-else class="quiet">nobody</span>
          </td>
          <td style="white-space: nowrap">
            <span
              v-if="issue.dueOn"
              :class="isOverdue(issue.dueOn) && issue.status !== 'closed' ? 'sign needs-you' : ''"
              >{{ day(issue.dueOn) }}</span
            >
          </td>
          <td class="mono quiet">{{ time.short(issue.updatedAt) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="hasMore" style="margin-top: 10px"><el-button @click="more()">Older ones</el-button></p>
    <RaiseIssueDialog v-if="raising" @close="raising = false" />
  </div>
</template>

<style scoped>
.blocking {
  color: var(--needs-you);
}
</style>
