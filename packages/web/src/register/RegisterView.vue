<script setup lang="ts">
import { exportContainers, listContainers, type Container } from '@kindred/contract/register/register';
import { atLeast } from '@kindred/core/register/folder-rights';
import { Boxes, FileSpreadsheet, FolderClosed, FolderOpen, Upload } from '@lucide/vue';
import { useEventListener } from '@vueuse/core';
import { storeToRefs } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useFirstAsKin } from '../frame/kin.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { addressOf, call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { useProject } from '../portfolio/store.ts';
import ChosenActions from './ChosenActions.vue';
import ColumnChooser from './ColumnChooser.vue';
import { fieldColumn } from './columns.ts';
import { useEdits } from './edits.ts';
import FilterStrip from './FilterStrip.vue';
import { useFolders } from './folders-store.ts';
import { useGroups, type Line } from './groups.ts';
import { useRegisterView } from './register-view.ts';
import RegisterTable from './RegisterTable.vue';
import UploadDesk from './UploadDesk.vue';
import { useUploads } from './uploads.ts';
import { filesIn } from './dropped-files.ts';
import ViewMenu from './ViewMenu.vue';
import { useRegisterWords } from './words.ts';

const project = useProject();
const uploads = useUploads();
const edits = useEdits();
const words = useRegisterWords();
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
useFirstAsKin('container', containers);
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
  const typing = event.target instanceof HTMLElement && /^(?:INPUT|TEXTAREA)$/.test(event.target.tagName);
  if (!typing && (event.ctrlKey || event.metaKey) && event.key === 'z' && edits.undoable.length) {
    event.preventDefault();
    void edits.undo();
  }
});

const exported = (as: 'xlsx' | 'csv'): string => {
  const asked = { ...filters.value, ...order.value, as } as Record<string, unknown>;
  const text = Object.fromEntries(Object.entries(asked).map(([key, value]) => [key, String(value)]));
  return `${addressOf(exportContainers, project.params)}?${new URLSearchParams(text)}`;
};

const over = ref(false);
const input = ref<HTMLInputElement>();
/** Folders that the person may deliver to. */
const open = computed(() => folders.value.filter(({ level }) => atLeast(level, 'deliver')));
const folderForUpload = computed(() => {
  // Without knowing whose team this is, the first folder of all would be taken.
  if (!project.view) return '';
  const list = open.value;
  const mine = project.view?.me.teamId;
  const here = list.find(({ id }) => id === query('folder'));
  return (here ?? list.find(({ teamId, parentId }) => parentId && teamId === mine) ?? list[0])?.id || '';
});
// Files may be dropped before the folders are known.
watch(folderForUpload, (id) => {
  if (uploads.open && !uploads.folderId) uploads.folderId = id;
});
function take(files: Iterable<File> | null | undefined): void {
  if (files) uploads.add(files, project.projectId, folderForUpload.value);
  if (input.value) input.value.value = '';
}
async function drop(event: DragEvent): Promise<void> {
  over.value = false;
  const files = event.dataTransfer && (await filesIn(event.dataTransfer));
  if (files?.length) take(files);
}
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
    <div class="body">
      <nav class="folders" aria-label="Folders">
        <button :class="{ here: !query('folder') }" @click="set({ folder: undefined, deep: undefined })">
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
        <label v-if="query('folder')" class="deep"
          ><input
            type="checkbox"
            :checked="query('deep') === '1'"
            @change="set({ deep: query('deep') === '1' ? undefined : '1' })"
          />
          with folders below</label
        >
      </nav>
      <section class="list">
        <div class="tools row">
          <FilterStrip :view="view" />
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
          <ViewMenu :view="view" />
          <ColumnChooser v-model="view.columns.value" />
          <el-dropdown trigger="click">
            <el-button aria-label="Save the list as a file" title="Save the list as a file"
              ><FileSpreadsheet :size="15"
            /></el-button>
            <template #dropdown>
              <el-dropdown-menu>
                <a :href="exported('xlsx')" download><el-dropdown-item>As XLSX</el-dropdown-item></a>
                <a :href="exported('csv')" download><el-dropdown-item>As CSV</el-dropdown-item></a>
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
        <ChosenActions v-if="chosen.size" :containers="chosenNow" @clear="chosen = new Map()" />
        <RegisterTable
          :lines="lines"
          :columns="view.columns.value"
          :group-by="query('group')"
          :sort="order.sort"
          :chosen="chosen"
          @sort-by="view.sortBy"
          @tick="tick"
          @tick-all="tickAll"
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
  grid-template-rows: minmax(0, 1fr);
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
</style>
