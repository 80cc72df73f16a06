<script setup lang="ts">
/** BCF files that left and came in. */
import { listBcfTransfers, type BcfTransfer } from '@kindred/contract/bcf/bcf';
import type { BcfNote } from '@kindred/core/bcf/bcf-file';
import { bcfNote } from '@kindred/words/bcf';
import { counted } from '@kindred/words/sentence';
import { call } from '../platform/api.ts';
import MoreRows from '../platform/MoreRows.vue';
import PersonBadge from '../platform/PersonBadge.vue';
import { usePages } from '../platform/pages.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const emit = defineEmits<{ close: [] }>();
const project = useProject();
const time = useTime();
const { items, loaded, hasMore, more } = usePages(
  () => [project.projectId, 'issue', 'bcf transfers'],
  (after) => call(listBcfTransfers, { params: project.params, query: { ...(after && { after }) } }),
);
function said({ way, counts }: BcfTransfer): string {
  if (way === 'out') return counted(counts.topics, 'issue');
  const { added = 0, changed = 0, comments = 0, refused = 0 } = counts;
  const parts = [
    added && `${added} new`,
    changed && `${changed} changed`,
    comments && counted(comments, 'comment'),
    refused && `${refused} against the rules of the project`,
  ];
  return parts.filter(Boolean).join(', ') || 'nothing new';
}
const filterOf = ({ filter }: BcfTransfer): string =>
  Object.entries(filter)
    .map(([name, value]) => `${name}: ${String(value)}`)
    .join('; ');
</script>

<template>
  <AppDialog title="What left and came in as BCF" :width="820" @close="emit('close')">
    <p v-if="loaded && !items.length" class="quiet">Nothing yet.</p>
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th>When</th>
          <th>By</th>
          <th>Way</th>
          <th>File</th>
          <th>What</th>
          <th>Filter</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in items" :key="one.id">
          <td class="mono">{{ time.moment(one.at) }}</td>
          <td><PersonBadge :person="one.by" /></td>
          <td>{{ one.way }}</td>
          <td>
            {{ one.fileName }} <span class="quiet">BCF {{ one.version }}</span>
          </td>
          <td>
            {{ said(one) }}
            <details v-if="one.notes.length">
              <summary class="quiet">{{ counted(one.notes.length, 'note') }}</summary>
              <p v-for="(note, i) in one.notes.slice(0, 50)" :key="i">{{ bcfNote(note as BcfNote) }}</p>
            </details>
          </td>
          <td class="quiet">{{ filterOf(one) }}</td>
        </tr>
      </tbody>
    </table>
    <MoreRows :has-more="hasMore" @more="more" />
  </AppDialog>
</template>
