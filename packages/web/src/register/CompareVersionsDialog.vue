<script setup lang="ts">
import { listSheets, type Sheet } from '@kindred/contract/drawing/drawing';
import { downloadProduct, type Version } from '@kindred/contract/register/register';
import { countChanges } from '@kindred/core/register/version-changes';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { useNaming } from '../naming/store.ts';
import { addressOf, call } from '../platform/api.ts';
import { bytes, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

/** Two versions side by side: what they say of themselves, and what is in them. */
const props = defineProps<{ versions: Version[]; older: Version; newer: Version }>();
const emit = defineEmits<{ close: []; choose: [older: number, newer: number] }>();
const project = useProject();
const naming = useNaming();
const time = useTime();

const LINES: { word: string; value(version: Version): string; hint?(version: Version): string }[] = [
  { word: 'Title', value: ({ title }) => title },
  { word: 'Revision', value: ({ revision }) => revision },
  { word: 'Status', value: ({ status }) => status, hint: ({ status }) => naming.meaning(status) },
  { word: 'State', value: ({ state }) => state },
  {
    word: 'Classification',
    value: ({ classification }) => classification,
    hint: ({ classification }) => naming.meaning(classification),
  },
  { word: 'Description', value: ({ description }) => description },
  { word: 'File', value: ({ fileName }) => fileName },
  { word: 'Size', value: ({ size }) => bytes(size) },
  { word: 'Delivered', value: ({ deliveredAt }) => time.moment(deliveredAt) },
  { word: 'By', value: ({ deliveredBy }) => deliveredBy.name },
];
const lines = computed(() =>
  LINES.map(({ word, value, hint }) => ({
    word,
    before: value(props.older),
    after: value(props.newer),
    hint: hint?.(props.newer),
    differs: value(props.older) !== value(props.newer),
  })),
);
const same = computed(() => props.older.sha256 === props.newer.sha256);
const ofOneKind = computed(() => props.older.kind === props.newer.kind);
const ready = computed(() => [props.older, props.newer].every(({ preparation }) => preparation === 'ready'));

const { data: content } = useQuery({
  key: () => [project.projectId, 'container', 'compared', props.older.id, props.newer.id],
  query: async () => {
    const both = [props.older, props.newer];
    const counts =
      props.older.kind === 'model'
        ? await Promise.all(both.map(elementCounts))
        : await Promise.all(both.map(sheetNames));
    return countChanges(counts[0]!, counts[1]!);
  },
  enabled: () => ofOneKind.value && ready.value && !same.value && ['model', 'drawing'].includes(props.older.kind),
});
async function elementCounts({ id }: Version): Promise<Map<string, number>> {
  const response = await fetch(addressOf(downloadProduct, { ...project.params, versionId: id, product: 'elements' }));
  const table = (await response.json()) as ElementTable;
  const counts = new Map<string, number>();
  for (const index of table.class) counts.set(table.classes[index]!, (counts.get(table.classes[index]!) ?? 0) + 1);
  return counts;
}
async function sheetNames({ id }: Version): Promise<Map<string, number>> {
  const sheets: Sheet[] = await call(listSheets, { params: { ...project.params, versionId: id } });
  return new Map(sheets.map(({ label }) => [label, 1]));
}
const thumbnail = ({ id }: Version): string =>
  addressOf(downloadProduct, { ...project.params, versionId: id, product: 'thumbnail' });
const others = computed(() => props.versions.map(({ number }) => number));
const SIGNS = { came: '+', went: '−', altered: '~' } as const;
</script>

<template>
  <AppDialog
    :title="`Compare versions ${older.number} and ${newer.number}`"
    :width="880"
    top="6vh"
    @close="emit('close')"
  >
    <template #header>
      <div class="row">
        <h2>Compare version</h2>
        <el-select
          :model-value="older.number"
          size="small"
          style="width: 70px"
          aria-label="Earlier version"
          @update:model-value="emit('choose', $event, newer.number)"
          ><el-option v-for="number in others" :key="number" :value="number"
        /></el-select>
        with
        <el-select
          :model-value="newer.number"
          size="small"
          style="width: 70px"
          aria-label="Later version"
          @update:model-value="emit('choose', older.number, $event)"
          ><el-option v-for="number in others" :key="number" :value="number"
        /></el-select>
      </div>
    </template>
    <div v-if="ofOneKind && ready && older.kind !== 'document'" class="pictures">
      <figure v-for="version in [older, newer]" :key="version.id">
        <img :src="thumbnail(version)" :alt="`Version ${version.number}`" />
        <figcaption class="mono">{{ version.number }} · {{ version.revision || 'no revision' }}</figcaption>
      </figure>
    </div>
    <table class="plain-table">
      <tbody>
        <tr v-for="line in lines" :key="line.word" :class="{ differs: line.differs }">
          <th>{{ line.word }}</th>
          <td>{{ line.before }}</td>
          <td class="mono sign-of">{{ line.differs ? '~' : '' }}</td>
          <td>
            {{ line.after }} <span v-if="line.hint" class="quiet">{{ line.hint }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="same" class="quiet">Both have the very same file.</p>
    <template v-if="content">
      <h2>{{ older.kind === 'model' ? 'Elements by class' : 'Sheets' }}</h2>
      <p v-if="!content.length" class="quiet">
        {{ older.kind === 'model' ? 'As many of each class as before.' : 'The same sheets, by number and title.' }}
      </p>
      <ul class="changes">
        <li v-for="change in content" :key="change.name" :class="change.kind">
          <b class="mono">{{ SIGNS[change.kind] }}</b> {{ change.name }}
          <span v-if="older.kind === 'model'" class="mono">{{ change.before }} → {{ change.after }}</span>
        </li>
      </ul>
    </template>
  </AppDialog>
</template>

<style scoped>
.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  margin-bottom: 10px;
}
figure {
  margin: 0;
  text-align: center;
  background: var(--paper);
  padding: 8px;
}
img {
  max-width: 100%;
  max-height: 220px;
}
th {
  width: 110px;
  text-align: left;
}
td {
  width: 45%;
}
.sign-of {
  width: 20px;
  color: #7a4fa3;
}
.differs td {
  font-weight: 500;
}
h2 {
  margin: 12px 0 4px;
}
.changes {
  list-style: none;
  margin: 0;
  padding: 0;
  columns: 2;
}
.came b {
  color: #1f6fb2;
}
.went b {
  color: #c4541a;
}
.altered b {
  color: #7a4fa3;
}
</style>
