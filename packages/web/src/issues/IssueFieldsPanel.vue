<script setup lang="ts">
/** What an issue says of itself in fields, changed where one may. */
import type { IssueView } from '@kindred/contract/issues/issues';
import { watchIssue } from '@kindred/contract/issues/issues';
import type { IssueField } from '@kindred/core/issues/may-change';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { Bell, BellOff } from '@lucide/vue';
import { useQueryCache } from '@pinia/colada';
import { computed } from 'vue';
import { useSession } from '../identity/store.ts';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { call } from '../platform/api.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { attempt } from '../platform/say.ts';
import { isOverdue, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import type { IssueChanges } from './change-issues.ts';
import DueField from './DueField.vue';
import ResponsibleSelect from './ResponsibleSelect.vue';
import { useIssueSettings } from './store.ts';

const props = defineProps<{ view: IssueView }>();
const emit = defineEmits<{ change: [IssueChanges] }>();
const project = useProject();
const people = usePeople();
const session = useSession();
const time = useTime();
const kept = useIssueSettings();
const cache = useQueryCache();
const issue = computed(() => props.view.issue);
const may = (field: IssueField): boolean => props.view.may.includes(field);
const overdue = computed(() => isOverdue(issue.value.dueOn) && PENDING_ISSUE_STATUSES.includes(issue.value.status));
/** Words that an issue has stay to be chosen, though the project may not have them any more. */
const offered = (names: string[], ...own: string[]): string[] => [...new Set([...names, ...own])];

const watching = computed(() => props.view.watchers.some(({ id }) => id === session.me?.id));
const watcherIds = computed(() => props.view.watchers.map(({ id }) => id));
async function watch(ids: string[]): Promise<void> {
  const add = ids.filter((id) => !watcherIds.value.includes(id));
  const remove = watcherIds.value.filter((id) => !ids.includes(id));
  await attempt(() =>
    call(watchIssue, { params: { ...project.params, issueId: issue.value.id }, body: { add, remove } }),
  );
  await cache.invalidateQueries({ key: [project.projectId, 'issue', issue.value.id] });
}
const toggle = () => {
  const me = session.me!.id;
  return watch(watching.value ? watcherIds.value.filter((id) => id !== me) : [...watcherIds.value, me]);
};
</script>

<template>
  <aside>
    <label class="field"
      ><span>Who answers</span
      ><ResponsibleSelect
        :model-value="issue.responsible"
        :members="people.members"
        :teams="people.data?.teams ?? []"
        :roles="people.data?.roles ?? []"
        :disabled="!may('responsible')"
        placeholder="nobody"
        @update:model-value="emit('change', { responsible: $event && { kind: $event.kind, id: $event.id } })"
    /></label>
    <label class="field"
      ><span>Verifies the answer</span
      ><PersonSelect
        :model-value="issue.verifier?.id ?? null"
        :members="people.members"
        :disabled="!may('verifierId')"
        :placeholder="issue.author.name"
        @update:model-value="emit('change', { verifierId: ($event as string | null) || null })"
    /></label>
    <label class="field"
      ><span>Type</span
      ><el-select
        :model-value="issue.type"
        :disabled="!may('type')"
        @update:model-value="emit('change', { type: $event })"
        ><el-option
          v-for="name in offered(
            kept.settings.types.map((one) => one.name),
            issue.type,
          )"
          :key="name"
          :value="name"
          :label="name" /></el-select
    ></label>
    <label class="field"
      ><span>Priority</span
      ><el-select
        :model-value="issue.priority"
        :disabled="!may('priority')"
        @update:model-value="emit('change', { priority: $event })"
        ><el-option
          v-for="name in offered(
            kept.settings.priorities.map((one) => one.name),
            issue.priority,
          )"
          :key="name"
          :value="name"
          :label="name" /></el-select
    ></label>
    <div class="field">
      <span>Due <b v-if="overdue" class="sign needs-you full after">overdue</b></span
      ><DueField
        :model-value="issue.dueOn"
        :holidays="project.view?.project.holidays ?? []"
        :disabled="!may('dueOn')"
        @update:model-value="emit('change', { dueOn: $event })"
      />
    </div>
    <label v-if="kept.settings.labels.length || issue.labels.length" class="field"
      ><span>Labels</span
      ><el-select
        :model-value="issue.labels"
        multiple
        filterable
        :disabled="!may('labels')"
        placeholder="none"
        @update:model-value="emit('change', { labels: $event })"
        ><el-option
          v-for="label in offered(kept.settings.labels, ...issue.labels)"
          :key="label"
          :value="label"
          :label="label" /></el-select
    ></label>
    <div class="field">
      <span
        >Watched by
        <button class="button-link" @click="toggle">
          <component :is="watching ? BellOff : Bell" :size="13" /> {{ watching ? 'Watch no longer' : 'Watch' }}
        </button></span
      >
      <PersonSelect
        v-if="may('title')"
        :model-value="watcherIds"
        multiple
        :members="people.members"
        placeholder="nobody"
        aria-label="Watched by"
        @update:model-value="watch($event as string[])"
      />
      <template v-else>{{ view.watchers.map(({ name }) => name).join(', ') || 'nobody' }}</template>
    </div>
    <div class="field">
      <span>{{ issue.writtenBy ? 'Brought in by' : 'Raised by' }}</span><PersonBadge :person="issue.author" named />
    </div>
    <div v-if="issue.writtenBy" class="field"><span>Written by</span>{{ issue.writtenBy }}</div>
    <div class="field"><span>Raised</span>{{ time.moment(issue.createdAt) }}</div>
    <div v-if="issue.answeredAt" class="field"><span>First answered</span>{{ time.moment(issue.answeredAt) }}</div>
    <div v-if="issue.closedAt" class="field"><span>Closed</span>{{ time.moment(issue.closedAt) }}</div>
  </aside>
</template>
