<script setup lang="ts">
import { exportAuditTrail, listAuditTrail, type AuditEvent } from '@kindred/contract/insight/insight';
import { changeWords } from '@kindred/words/changes';
import { eventWords } from '@kindred/words/events';
import { refDebounced } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { addressOf, call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { useRouteQuery } from '../platform/route-query.ts';

/** Who did what and when: the one log of the project, for its administrators. */
const project = useProject();
const people = usePeople();
const time = useTime();
const route = useRoute();
const router = useRouter();
const { query } = useRouteQuery();
const set = (changes: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...changes } });
const typed = ref(query('q'));
const words = refDebounced(typed, 250);
watch(words, (q) => void set({ q: q.trim() || undefined }));
const TYPES = [
  'container',
  'version',
  'share set',
  'saved view',
  'issue',
  'review',
  'transmittal',
  'markup',
  'viewpoint',
  'person',
  'role',
  'team',
  'folder',
  'convention',
  'project',
];
const filters = computed(() =>
  Object.fromEntries(
    ['q', 'personId', 'subjectType', 'from', 'before'].filter((name) => query(name)).map((name) => [name, query(name)]),
  ),
);
const { items, loaded, hasMore, more } = usePages<AuditEvent>(
  () => [project.projectId, 'audit trail', filters.value],
  (after) =>
    call(listAuditTrail, { params: project.params, query: { ...filters.value, limit: 100, ...(after && { after }) } }),
);
const exported = computed(() => `${addressOf(exportAuditTrail, project.params)}?${new URLSearchParams(filters.value)}`);
const dates = computed({
  get: (): [string, string] | null => (query('from') && query('before') ? [query('from'), query('before')] : null),
  set: (range) =>
    void set({
      from: range ? new Date(range[0]).toISOString() : undefined,
      before: range ? new Date(Date.parse(range[1]) + 86_400_000).toISOString() : undefined,
    }),
});
const changed = ({ before, after }: AuditEvent): string[] => changeWords(before, after);
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Audit trail</h1>
      <span class="spread" />
      <a :href="exported" download class="el-button">Save as CSV</a>
    </div>
    <div class="row filters">
      <el-input
        v-model="typed"
        clearable
        placeholder="What was done, or to what"
        aria-label="Search the trail"
        style="width: 220px"
      />
      <PersonSelect
        :model-value="query('personId')"
        :members="people.data?.members ?? []"
        placeholder="Who"
        aria-label="Who"
        style="width: 180px"
        @update:model-value="set({ personId: ($event as string | null) || undefined })"
      />
      <el-select
        :model-value="query('subjectType')"
        clearable
        placeholder="Kind of thing"
        aria-label="Kind of thing"
        style="width: 150px"
        @update:model-value="set({ subjectType: $event || undefined })"
        ><el-option v-for="type in TYPES" :key="type" :value="type"
      /></el-select>
      <el-date-picker
        v-model="dates"
        type="daterange"
        value-format="YYYY-MM-DD"
        format="D MMM YYYY"
        start-placeholder="From"
        end-placeholder="Up to and with"
        style="max-width: 270px"
      />
    </div>
    <EmptyPlace v-if="loaded && !items.length" title="Nothing fits these filters">Clear one of them.</EmptyPlace>
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>Did</th>
          <th>To</th>
          <th style="width: 40%">What changed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="event in items" :key="event.id">
          <td class="mono quiet when">{{ time.moment(event.at) }}</td>
          <td>{{ event.actor?.name ?? 'the application' }}</td>
          <td>
            <b>{{ eventWords(event) }}</b>
          </td>
          <td>
            <span class="quiet">{{ event.subjectType }}</span> {{ event.subject }}
          </td>
          <td class="values" :title="changed(event).join('\n')">{{ changed(event).join(' · ') }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="hasMore"><button class="button-link" @click="more()">Show what happened before</button></p>
  </div>
</template>

<style scoped>
.filters {
  margin-bottom: 12px;
  flex-wrap: wrap;
}
.when {
  white-space: nowrap;
}
.values {
  max-width: 380px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--graphite);
}
</style>
