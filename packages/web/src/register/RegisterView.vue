<script setup lang="ts">
import {
  downloadProduct,
  listContainers,
  startRegisterExport,
  type Container,
} from '@kindred/contract/register/register';
import { isByProduct } from '@kindred/core/register/by-product';
import { mayDescribe } from '@kindred/core/register/may-change';
import { counted } from '@kindred/words/sentence';
import { Boxes, FileSpreadsheet, FolderClosed, FolderOpen, Upload } from '@lucide/vue';
import { useEventListener } from '@vueuse/core';
import { storeToRefs } from 'pinia';
import { computed, defineAsyncComponent, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useFirstAsSelected, useRelated } from '../things/related.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import { addressOf, call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { isTyping } from '../platform/keyboard.ts';
import { usePages } from '../platform/pages.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import ColumnChooser from './ColumnChooser.vue';
import { fieldColumn } from './columns.ts';
import { useEdits } from './edits.ts';
import FilterPanel from './FilterPanel.vue';
import { useFolders } from './folders-store.ts';
import { useGroups, type Line } from './groups.ts';
import { openingOf } from './opening.ts';
import { useRegisterView } from './register-view.ts';
import RegisterTable from './RegisterTable.vue';
import { useUploads } from './uploads.ts';
import { filesIn } from './dropped-files.ts';
import SavedViewsPanel from './SavedViewsPanel.vue';
import { useRegisterWords } from './words.ts';

// Only some visits need these.
const ChosenPanel = defineAsyncComponent(() => import('./ChosenPanel.vue'));
const UploadDeskPanel = defineAsyncComponent(() => import('./UploadDeskPanel.vue'));

const project = useProject();
const uploads = useUploads();
const edits = useEdits();
const words = useRegisterWords();
const related = useRelated();
const jobs = useJobs();
const route = useRoute();
const router = useRouter();
const view = useRegisterView();
const { query, set, filters, order } = view;
const { list: folders } = storeToRefs(useFolders());

const {
  items: containers,
  loaded,
  more,
} = usePages(
  () => [project.projectId, 'container', 'register', filters.value, order.value],
  (after) =>
    call(listContainers, {
      params: project.params,
      query: { ...filters.value, ...order.value, limit: 100, ...(after && { after }) },
    }),
);
useFirstAsSelected('container', containers);
const groups = useGroups(view);
const grouped = computed(() => query('group') !== '');
const lines = computed((): Line[] =>
  grouped.value ? groups.lines.value : containers.value.map((container) => ({ type: 'row', container })),
);
const GROUPS = [
  { value: 'status', word: 'Status' },
  { value: 'state', word: 'State' },
  { value: 'teamId', word: 'Team' },
  { value: 'folderId', word: 'Folder' },
  { value: 'kind', word: 'Kind' },
  { value: 'revision', word: 'Revision' },
  { value: 'classification', word: 'Classification' },
  { value: 'deliveredBy', word: 'Delivered by' },
];
const groupWords = computed(() => [
  ...GROUPS,
  ...words.fields.value.map((field) => ({ value: fieldColumn(field), word: field })),
]);

const chosen = shallowRef(new Map<string, Container>());
/** Those that are chosen, as they are now. */
const chosenNow = computed(() => {
  const now = new Map(
    lines.value.flatMap((line) => (line.type === 'row' ? [[line.container.id, line.container]] : [])),
  );
  return [...chosen.value.values()].map((container) => now.get(container.id) ?? container);
});
function tick(container: Container): void {
  const next = new Map(chosen.value);
  if (!next.delete(container.id)) next.set(container.id, container);
  chosen.value = next;
}
function tickRange(range: Container[]): void {
  chosen.value = new Map([...chosen.value, ...range.map((container) => [container.id, container] as const)]);
}
const addresses = {
  open: (container: Container) => router.resolve(openingOf(container, project.projectId)).href,
  versions: ({ id }: Container) =>
    router.resolve({ name: 'container', params: { ...project.params, containerId: id } }).href,
  picture: ({ versionId }: Container) =>
    addressOf(downloadProduct, { ...project.params, versionId, product: 'thumbnail' }),
};
const mayEdit = (container: Container): boolean => {
  const me = project.view?.me;
  return me !== undefined && mayDescribe(me, container);
};
const MOST_CHOSEN = 1000;
async function tickAll(): Promise<void> {
  if (chosen.value.size) return void (chosen.value = new Map());
  const found = new Map<string, Container>();
  let after: string | null = null;
  do {
    const asked = { ...filters.value, ...order.value, limit: 200, ...(after && { after }) };
    const page: { items: Container[]; next: string | null } = await call(listContainers, {
      params: project.params,
      query: asked,
    });
    for (const container of page.items) found.set(container.id, container);
    after = page.next;
  } while (after && found.size < MOST_CHOSEN);
  chosen.value = found;
}
useEventListener('keydown', (event: KeyboardEvent) => {
  if (!isTyping(event.target) && (event.ctrlKey || event.metaKey) && event.key === 'z' && edits.undoable.length) {
    event.preventDefault();
    void edits.undo();
  }
});

async function exportAs(as: 'xlsx' | 'csv'): Promise<void> {
  const asked = JSON.parse(JSON.stringify({ ...filters.value, ...order.value, as })) as { as: 'xlsx' | 'csv' };
  await attempt(async () => jobs.follow(await call(startRegisterExport, { params: project.params, query: asked })));
}

const over = ref(false);
const input = ref<HTMLInputElement>();
const folderForUpload = computed(() => uploads.folderHere(query('folder')));
const desk = computed(() => uploads.deskIn(project.projectId));
// Files may be dropped before the folders are known.
watch([folderForUpload, () => desk.value?.unplaced], ([id, unplaced]) => {
  if (id && unplaced) desk.value?.moveTo(id, 'unplaced');
});
function take(files: Iterable<File> | null | undefined): void {
  if (!files) return;
  const chosen = [...files];
  const wanted = chosen.filter(({ name }) => !isByProduct(name));
  if (wanted.length < chosen.length) {
    const left = chosen.filter(({ name }) => isByProduct(name)).map(({ name }) => name);
    const some = [...new Set(left)].slice(0, 3).join(', ');
    sayDone(`Left out, as nobody means to deliver them: ${counted(left.length, 'file')} such as ${some}.`);
  }
  void uploads.add(wanted, project.projectId, query('folder'));
  if (input.value) input.value.value = '';
}
async function drop(event: DragEvent): Promise<void> {
  over.value = false;
  const files = event.dataTransfer && (await filesIn(event.dataTransfer));
  if (files?.length) take(files);
}
const folderName = computed(() => folders.value.find(({ id }) => id === query('folder'))?.name ?? 'Whole register');
const filtered = computed(() =>
  Object.keys(route.query).some((key) => !['view', 'group', 'sort', 'down'].includes(key)),
);
</script>

<template>
  <div
    class="register"
    data-test="register"
    @dragover.prevent="over = project.may('register', 'add')"
    @drop.prevent="drop"
    @dragleave.self="over = false"
  >
    <h1 class="said-only">Register</h1>
    <div class="body">
      <SideList v-slot="{ close }" title="Folders" :chosen="folderName">
        <nav class="folders" aria-label="Folders">
          <button :class="{ here: !query('folder') }" @click="(set({ folder: undefined, deep: undefined }), close())">
            <Boxes :size="15" :stroke-width="1.5" /> Whole register
          </button>
          <button
            v-for="folder in folders"
            :key="folder.id"
            :class="{ here: query('folder') === folder.id }"
            :style="{ paddingLeft: `${12 + folder.depth * 18}px` }"
            @click="(set({ folder: folder.id }), close())"
          >
            <component :is="query('folder') === folder.id ? FolderOpen : FolderClosed" :size="15" :stroke-width="1.5" />
            <span class="spread">{{ folder.name }}</span>
            <span v-if="folder.containers" class="mono quiet">{{ folder.containers }}</span>
          </button>
          <label v-if="query('folder')" class="deep"
            ><input
              type="checkbox"
              :checked="query('deep') === '1'"
              @change="set({ deep: query('deep') === '1' ? undefined : '1' })"
            />
            with folders below</label
          >
        </nav>
      </SideList>
      <section class="list">
        <div class="tools row">
          <FilterPanel :view="view" />
          <span class="spread" />
          <el-select
            :model-value="query('group')"
            clearable
            placeholder="Group by"
            style="width: 104px"
            aria-label="Group by"
            @update:model-value="set({ group: $event || undefined })"
            ><el-option v-for="{ value, word } in groupWords" :key="value" :value="value" :label="word"
          /></el-select>
          <SavedViewsPanel
            list="register"
            :view-id="view.query('view')"
            :definition="view.definition.value"
            @show="view.show"
          />
          <ColumnChooser v-model="view.columns.value" />
          <el-dropdown trigger="click">
            <el-button aria-label="Save the list as a file" title="Save the list as a file"
              ><FileSpreadsheet :size="15"
            /></el-button>
            <template #dropdown>
              <el-dropdown-menu>
                <el-dropdown-item @click="exportAs('xlsx')">As XLSX</el-dropdown-item>
                <el-dropdown-item @click="exportAs('csv')">As CSV</el-dropdown-item>
              </el-dropdown-menu>
            </template>
          </el-dropdown>
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
        <ChosenPanel v-if="chosen.size" :containers="chosenNow" @clear="chosen = new Map()" />
        <RegisterTable
          :lines="lines"
          :columns="view.columns.value"
          :group-by="query('group')"
          :sort="order.sort"
          :chosen="chosen"
          :selected-id="related.selected?.id ?? null"
          :words="words"
          :addresses="addresses"
          :may-edit="mayEdit"
          @sort-by="view.sortBy"
          @select="related.select({ type: 'container', id: $event.id })"
          @open="router.push(addresses.open($event))"
          @tick="tick"
          @tick-all="tickAll"
          @tick-range="tickRange"
          @keep="(container, key, value) => edits.change([{ containerId: container.id, [key]: value }])"
          @toggle-group="groups.toggle($event.group)"
          @more-of="groups.more($event.group)"
          @end="grouped || more()"
        >
          <EmptyPlace
            v-if="loaded && !containers.length"
            :title="filtered ? 'Nothing fits these filters' : 'The register is empty'"
            style="margin: 20px"
          >
            <template v-if="!filtered"
              >Models, drawings and documents of the project stand here with every version. Drop files anywhere on this
              page to deliver the first.</template
            >
            <button v-else class="button-link" @click="router.replace({ query: {} })">Show the whole register</button>
          </EmptyPlace>
        </RegisterTable>
      </section>
    </div>
    <UploadDeskPanel v-if="desk" :desk="desk" :open="uploads.open" foldable />
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
  grid-template-rows: minmax(0, 1fr);
}
.folders {
  padding: 10px 0;
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
.deep {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 10px 12px;
  color: var(--graphite);
  font-size: 12px;
}
.list {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.tools {
  padding: 9px 14px;
  gap: 6px;
  flex-wrap: wrap;
}
.tools :deep(.el-button) {
  padding: 8px 10px;
}
.tools :deep(.el-button + .el-button) {
  margin-left: 0;
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
@media (max-width: 700px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr);
  }
  .folders button {
    min-height: 40px;
  }
}
</style>
