<script setup lang="ts">
import { CONTAINER_SORTS, downloadProduct, listContainers, type Container } from '@kindred/contract/register/register';
import { decodeName } from '@kindred/core/naming/convention';
import { atLeast } from '@kindred/core/register/folder-rights';
import { CONTAINER_STATES } from '@kindred/core/register/states';
import { FILE_KINDS } from '@kindred/core/register/file-kind';
import { ArrowDownUp, Boxes, FolderClosed, FolderOpen, Upload } from '@lucide/vue';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { refDebounced } from '@vueuse/core';
import { storeToRefs } from 'pinia';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useFirstAsKin, useKin } from '../frame/kin.ts';
import { useNaming } from '../naming/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { addressOf, call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { openingOf } from './opening.ts';
import { PREPARATION_SIGNS, STATE_SIGNS } from './signs.ts';
import UploadDesk from './UploadDesk.vue';
import { useFolders } from './folders-store.ts';
import { useUploads } from './uploads.ts';

const project = useProject();
const naming = useNaming();
const uploads = useUploads();
const kin = useKin();
const time = useTime();
const route = useRoute();
const router = useRouter();

const query = (name: string): string => (typeof route.query[name] === 'string' ? route.query[name] : '');
const set = (changes: Record<string, string | undefined>) => router.replace({ query: { ...route.query, ...changes } });
const typed = ref(query('q'));
const words = refDebounced(typed, 200);
watch(words, (q) => void set({ q: q.trim() || undefined }));

const filters = computed(() => ({
  ...(query('q') && { q: query('q') }),
  ...(query('folder') && { folderId: query('folder') }),
  ...(query('kind') && { kind: query('kind') as Container['kind'] }),
  ...(query('state') && { state: query('state') as Container['state'] }),
  ...(query('status') && { status: query('status') }),
  sort: ((CONTAINER_SORTS as readonly string[]).includes(query('sort'))
    ? query('sort')
    : 'code') as (typeof CONTAINER_SORTS)[number],
  descending: query('down') === '1',
}));
const { list: folders } = storeToRefs(useFolders());
const {
  items: containers,
  loaded,
  more,
} = usePages(
  () => [project.projectId, 'container', 'register', filters.value],
  (after) =>
    call(listContainers, { params: project.params, query: { ...filters.value, limit: 100, ...(after && { after }) } }),
);

const body = ref<HTMLElement | null>(null);
const rows = useVirtualizer(
  computed(() => ({
    count: containers.value.length,
    getScrollElement: () => body.value,
    estimateSize: () => 44,
    overscan: 12,
  })),
);
watch(
  () => rows.value.getVirtualItems().at(-1)?.index,
  (last) => {
    if (last !== undefined && last > containers.value.length - 30) more();
  },
);

const COLUMNS = [
  { word: 'Code', sort: 'code' },
  { word: 'Title', sort: 'title' },
  { word: 'Version', sort: '' },
  { word: 'Rev', sort: 'revision' },
  { word: 'Status', sort: 'status' },
  { word: 'State', sort: '' },
  { word: 'Team', sort: '' },
  { word: 'Delivered', sort: 'deliveredAt' },
] as const;
function sortBy(sort: string): void {
  if (!sort) return;
  const again = filters.value.sort === sort;
  void set({ sort, down: again && !filters.value.descending ? '1' : undefined });
}

const teamOf = computed(
  () =>
    new Map(
      folders.value.filter(({ teamId, parentId }) => teamId && !parentId).map(({ teamId, name }) => [teamId, name]),
    ),
);
function decoded({ folderId, code }: Container): string {
  const convention = naming.conventionIn(folderId);
  return convention
    ? decodeName(convention, code)
        .filter(({ meaning }) => meaning)
        .map(({ field, code: part, meaning }) => `${field} ${part}: ${meaning}`)
        .join('\n')
    : '';
}
const thumbnail = (container: Container): string =>
  addressOf(downloadProduct, { projectId: project.projectId, versionId: container.versionId, product: 'thumbnail' });
const chosen = ref(new Set<string>());
const chosenModels = computed(() =>
  containers.value.filter(
    ({ id, kind, preparation }) => chosen.value.has(id) && kind === 'model' && preparation === 'ready',
  ),
);
const chosenVersions = computed(() =>
  containers.value.filter(({ id }) => chosen.value.has(id)).map(({ versionId }) => versionId),
);

function select(container: Container): void {
  kin.select({ type: 'container', id: container.id });
}
useFirstAsKin('container', containers);
function tick(container: Container): void {
  const next = new Set(chosen.value);
  if (!next.delete(container.id)) next.add(container.id);
  chosen.value = next;
}
const openModels = () =>
  router.push({
    name: 'scene',
    params: project.params,
    query: { models: chosenModels.value.map(({ versionId }) => versionId).join(',') },
  });
const sendChosen = () =>
  router.push({ name: 'transmittals', params: project.params, query: { send: chosenVersions.value.join(',') } });
const reviewChosen = () =>
  router.push({ name: 'reviews', params: project.params, query: { start: chosenVersions.value.join(',') } });

const over = ref(false);
const input = ref<HTMLInputElement>();
/** Folders that the person may deliver to. */
const open = computed(() => folders.value.filter(({ level }) => atLeast(level, 'deliver')));
const folderForUpload = computed(() => {
  const list = open.value;
  const mine = project.view?.me.teamId;
  const here = list.find(({ id }) => id === query('folder'));
  return (here ?? list.find(({ teamId, parentId }) => parentId && teamId === mine) ?? list[0])?.id || '';
});
function take(files: FileList | null | undefined): void {
  over.value = false;
  if (files?.length) uploads.add(files, project.projectId, folderForUpload.value);
  if (input.value) input.value.value = '';
}
</script>

<template>
  <div
    class="register"
    data-test="register"
    @dragover.prevent="over = project.may('register', 'add')"
    @drop.prevent="take($event.dataTransfer?.files)"
    @dragleave.self="over = false"
  >
    <div class="body">
      <nav class="folders" aria-label="Folders">
        <button :class="{ here: !query('folder') }" @click="set({ folder: undefined })">
          <Boxes :size="15" :stroke-width="1.5" /> Whole register
        </button>
        <button
          v-for="folder in folders"
          :key="folder.id"
          :class="{ here: query('folder') === folder.id }"
          :style="{ paddingLeft: `${12 + folder.depth * 18}px` }"
          @click="set({ folder: folder.id })"
        >
          <component :is="query('folder') === folder.id ? FolderOpen : FolderClosed" :size="15" :stroke-width="1.5" />
          <span class="spread">{{ folder.name }}</span>
          <span v-if="folder.containers" class="mono quiet">{{ folder.containers }}</span>
        </button>
      </nav>
      <section class="list">
        <div class="tools row">
          <el-input
            v-model="typed"
            placeholder="Search code, title, description"
            clearable
            style="width: 230px"
            aria-label="Search the register"
          />
          <el-select
            :model-value="query('kind')"
            clearable
            placeholder="Kind"
            style="width: 104px"
            aria-label="Kind"
            @update:model-value="set({ kind: $event || undefined })"
            ><el-option v-for="kind in FILE_KINDS" :key="kind" :value="kind" :label="kind"
          /></el-select>
          <el-select
            :model-value="query('state')"
            clearable
            placeholder="State"
            style="width: 134px"
            aria-label="State"
            @update:model-value="set({ state: $event || undefined })"
            ><el-option v-for="state in CONTAINER_STATES" :key="state" :value="state" :label="state"
          /></el-select>
          <el-select
            :model-value="query('status')"
            clearable
            placeholder="Status"
            style="width: 96px"
            aria-label="Status"
            @update:model-value="set({ status: $event || undefined })"
            ><el-option v-for="code in naming.naming?.statuses" :key="code.code" :value="code.code" :label="code.code"
              ><span class="mono">{{ code.code }}</span> {{ code.meaning }}</el-option
            ></el-select
          >
          <span class="spread" />
          <template v-if="chosen.size">
            <span class="quiet">{{ chosen.size }} chosen</span>
            <el-button v-if="chosenModels.length" @click="openModels"
              >Open {{ chosenModels.length }} in the scene</el-button
            >
            <el-button v-if="project.may('review', 'add')" @click="reviewChosen">Review</el-button>
            <el-button v-if="project.may('transmittal', 'add')" @click="sendChosen">Send</el-button>
          </template>
          <el-button v-if="project.may('register', 'add')" type="primary" @click="input?.click()"
            ><Upload :size="15" style="margin-right: 5px" /> Deliver files</el-button
          >
          <input
            ref="input"
            type="file"
            multiple
            hidden
            data-test="files"
            @change="take(($event.target as HTMLInputElement).files)"
          />
        </div>
        <div ref="body" class="table" role="table" aria-label="Register">
          <div class="line head" role="row">
            <span></span><span></span>
            <span class="row"
              ><button
                v-for="column in COLUMNS.slice(0, 2)"
                :key="column.word"
                role="columnheader"
                :class="{ sorted: column.sort === filters.sort }"
                @click="sortBy(column.sort)"
              >
                {{ column.word }} <ArrowDownUp v-if="column.sort === filters.sort" :size="11" /></button
            ></span>
            <span></span>
            <button
              v-for="column in COLUMNS.slice(2)"
              :key="column.word"
              role="columnheader"
              :class="{ sorted: column.sort === filters.sort }"
              @click="sortBy(column.sort)"
            >
              {{ column.word }} <ArrowDownUp v-if="column.sort && column.sort === filters.sort" :size="11" />
            </button>
          </div>
          <div :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
            <template v-for="row in rows.getVirtualItems()" :key="row.index">
              <div
                v-for="container in [containers[row.index]!]"
                :key="container.id"
                class="line"
                role="row"
                tabindex="0"
                :class="{ selected: kin.selected?.id === container.id }"
                :style="{ position: 'absolute', top: 0, left: 0, right: 0, transform: `translateY(${row.start}px)` }"
                @click="select(container)"
                @keydown.enter="router.push(openingOf(container, project.projectId))"
                @dblclick="router.push(openingOf(container, project.projectId))"
              >
                <input
                  type="checkbox"
                  :checked="chosen.has(container.id)"
                  :aria-label="`Choose ${container.code}`"
                  @click.stop="tick(container)"
                />
                <span class="thumb"
                  ><img
                    v-if="container.preparation === 'ready' && container.kind !== 'document'"
                    :src="thumbnail(container)"
                    alt=""
                /></span>
                <span class="name">
                  <RouterLink
                    class="title"
                    :to="openingOf(container, project.projectId)"
                    @click.stop="select(container)"
                    >{{ container.title || container.fileName }}</RouterLink
                  >
                  <span class="mono code" :title="decoded(container)">{{ container.code }}</span>
                </span>
                <small
                  v-if="container.preparation !== 'ready'"
                  :class="PREPARATION_SIGNS[container.preparation]"
                  :title="container.preparationNote"
                  >{{ container.preparation }}</small><span v-else />
                <span class="mono">{{ container.versionNumber }}</span>
                <span class="mono">{{ container.revision }}</span>
                <span :title="naming.meaning(container.status)"
                  ><span class="mono">{{ container.status }}</span></span
                >
                <span :class="STATE_SIGNS[container.state]">{{ container.state }}</span>
                <span class="quiet title team">{{ teamOf.get(container.teamId) }}</span>
                <RouterLink
                  class="when mono"
                  :to="{ name: 'container', params: { projectId: project.projectId, containerId: container.id } }"
                  :title="`${container.deliveredBy}: lineage`"
                  @click.stop
                  >{{ time.short(container.deliveredAt) }}</RouterLink
                >
              </div>
            </template>
          </div>
          <EmptyPlace
            v-if="loaded && !containers.length"
            :title="Object.keys(route.query).length ? 'Nothing fits these filters' : 'The register is empty'"
            style="margin: 20px"
          >
            <template v-if="!Object.keys(route.query).length"
              >Models, drawings and documents of the project stand here with every version. Drop files anywhere on this
              page to deliver the first.</template
            >
            <button v-else class="button-link" @click="router.replace({ query: {} })">Show the whole register</button>
          </EmptyPlace>
        </div>
      </section>
    </div>
    <UploadDesk v-if="uploads.open && uploads.projectId === project.projectId" :folders="open" />
    <div v-if="over" class="drop">Drop to deliver to {{ folders.find(({ id }) => id === folderForUpload)?.path }}</div>
  </div>
</template>

<style scoped>
.register {
  height: 100%;
  display: flex;
  flex-direction: column;
  position: relative;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr);
}
.folders {
  border-right: 1px solid var(--hairline);
  padding: 10px 0;
  overflow: auto;
}
.folders button {
  display: flex;
  align-items: center;
  gap: 7px;
  width: 100%;
  padding: 5px 12px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.folders button:hover {
  background: var(--wash);
}
.folders button.here {
  background: var(--action-wash);
  font-weight: 600;
}
.list {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.tools {
  padding: 9px 14px;
}
.tools :deep(.el-button + .el-button) {
  margin-left: 0;
}
.table {
  flex: 1;
  overflow: auto;
  background: var(--sheet);
  border-top: 1px solid var(--hairline);
  font-size: 12px;
}
.line {
  display: grid;
  grid-template-columns: 20px 46px minmax(170px, 1fr) auto 46px 40px 42px 116px 82px 52px;
  gap: 8px;
  align-items: center;
  height: 44px;
  padding: 0 10px;
  border-bottom: 1px solid var(--wash);
}
.line.head {
  height: 30px;
  position: sticky;
  top: 0;
  background: var(--sheet);
  z-index: 2;
  border-bottom: 1px solid var(--hairline);
}
.line.head button {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: var(--graphite);
  text-align: left;
  cursor: pointer;
  white-space: nowrap;
}
.line.head .sorted {
  color: var(--ink);
  font-weight: 600;
}
.line:not(.head):hover {
  background: var(--paper);
}
.line.selected {
  background: var(--action-wash);
}
.thumb {
  width: 46px;
  height: 34px;
  display: grid;
  place-items: center;
  background: var(--paper);
}
.thumb img {
  max-width: 46px;
  max-height: 34px;
}
.code,
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name {
  display: grid;
  min-width: 0;
}
.name .code {
  color: var(--graphite);
  font-size: 11px;
}
.name .title {
  color: var(--ink);
  font-weight: 500;
  font-size: 13px;
}
.when {
  color: var(--graphite);
  white-space: nowrap;
}
.drop {
  position: absolute;
  inset: 8px;
  border: 2px dashed var(--action);
  background: rgb(227 238 236 / 85%);
  display: grid;
  place-items: center;
  font-size: 18px;
  pointer-events: none;
  z-index: 5;
}
</style>
