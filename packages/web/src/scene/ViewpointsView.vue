<script setup lang="ts">
import { downloadViewpointPicture, type ViewpointSummary } from '@kindred/contract/scene/scene';
import { Presentation } from '@lucide/vue';
import { ElMessageBox } from 'element-plus';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import EmptyPlace from '../platform/EmptyPlace.vue';
import MoreRows from '../platform/MoreRows.vue';
import { addressOf } from '../platform/api.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { answered, sayDone } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { useFirstAsSelected, useRelated } from '../things/related.ts';
import ViewpointCard, { type ViewpointAct } from './ViewpointCard.vue';
import { useViewpoints } from './viewpoint-folder.ts';

const VueDraggable = defineAsyncComponent(async () => (await import('vue-draggable-plus')).VueDraggable);

const project = useProject();
const related = useRelated();
const router = useRouter();
const time = useTime();
const { query, set } = useRouteQuery();
const folder = computed(() => query('folder') || undefined);
const { items, loaded, hasMore, more, folders, arrange, rename, remove } = useViewpoints(() => folder.value);
useFirstAsSelected('viewpoint', items);
const mayArrange = computed(() => project.may('scene', 'add'));
/** As they lie while somebody drags one. */
const shown = ref<ViewpointSummary[]>([]);
watch(items, (list) => (shown.value = [...list]), { immediate: true });

const picture = (viewpointId: string): string =>
  addressOf(downloadViewpointPicture, { ...project.params, viewpointId });
const inScene = (viewpointId: string, slides?: string) => ({
  name: 'scene',
  params: project.params,
  query: { viewpoint: viewpointId, ...(slides && { slides }) },
});

/** One was dropped among the others: it stands before the one that follows it now. */
function dropped({ oldIndex, newIndex }: { oldIndex?: number; newIndex?: number }): void {
  if (newIndex === undefined || oldIndex === newIndex || folder.value === undefined) return;
  const { id } = shown.value[newIndex]!;
  void arrange([id], folder.value, shown.value[newIndex + 1]?.id ?? null);
}

async function ask(title: string, value: string): Promise<string | undefined> {
  const answer = await answered(
    ElMessageBox.prompt('Name', title, {
      ...{ inputValue: value, confirmButtonText: title, cancelButtonText: 'Cancel' },
      ...{ inputPattern: /^.{0,120}$/, inputErrorMessage: 'At most 120 characters.' },
    }),
  );
  return answer ? (answer.value ?? '').trim() : undefined;
}
async function act({ id, name, folder: lies }: ViewpointSummary, what: ViewpointAct): Promise<void> {
  const at = items.value.findIndex((one) => one.id === id);
  const acts: Record<ViewpointAct, () => unknown> = {
    earlier: () => at > 0 && arrange([id], lies, items.value[at - 1]!.id),
    later: () => arrange([id], lies, items.value[at + 2]?.id ?? null),
    async folder() {
      const into = await ask('Put into folder', lies);
      if (into !== undefined && (await arrange([id], into)))
        sayDone(into ? `It lies in “${into}”.` : 'It lies in no folder.');
    },
    async rename() {
      const next = await ask('Rename viewpoint', name);
      if (next) await rename(id, next);
    },
    beside: () => router.push({ name: 'scene-beside', params: project.params, query: { viewpoint: id } }),
    async remove() {
      const sure = await answered(
        ElMessageBox.confirm(`“${name}” and its picture are removed. Its models stay.`, 'Remove viewpoint', {
          ...{ confirmButtonText: 'Remove viewpoint', cancelButtonText: 'Cancel' },
        }),
      );
      if (sure && (await remove(id))) sayDone('Viewpoint removed.');
    },
  };
  await acts[what]();
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Viewpoints</h1>
      <nav v-arrow-keys="'button'" class="folders" data-help="viewpoints/folders" aria-label="Folders">
        <button :aria-pressed="folder === undefined" @click="set({ folder: undefined })">All, newest first</button>
        <button
          v-for="one in folders"
          :key="one.name"
          :aria-pressed="folder === one.name"
          @click="set({ folder: one.name })"
        >
          {{ one.name }} <span class="mono quiet">{{ one.viewpoints }}</span>
        </button>
      </nav>
      <el-button
        v-if="items.length"
        data-help="viewpoints/slides"
        @click="router.push(inScene(items[0]!.id, folder ?? '*'))"
        ><Presentation :size="15" class="before" /> Show one after the other</el-button
      >
    </div>
    <EmptyPlace v-if="loaded && !items.length" title="No viewpoint yet"
      >Save one in the scene: camera, section, visibility and selection come back exactly.</EmptyPlace
    >
    <VueDraggable v-model="shown" class="grid" :disabled="!mayArrange || folder === undefined" @end="dropped">
      <ViewpointCard
        v-for="viewpoint in shown"
        :key="viewpoint.id"
        :viewpoint="viewpoint"
        :picture="picture(viewpoint.id)"
        :to="inScene(viewpoint.id)"
        :date="time.date(viewpoint.createdAt)"
        :ordered="folder !== undefined"
        :may-arrange="mayArrange"
        @act="act(viewpoint, $event)"
        @mouseenter="related.select({ type: 'viewpoint', id: viewpoint.id })"
      />
    </VueDraggable>
    <MoreRows :has-more="hasMore" @more="more" />
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 18px;
}
.before {
  margin-right: 6px;
}
.folders {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  flex: 1;
}
.folders button {
  min-height: 28px;
  padding: 0 10px;
  border: 1px solid transparent;
  background: none;
  font: inherit;
  color: var(--graphite);
  cursor: pointer;
}
.folders button[aria-pressed='true'] {
  border-color: var(--hairline);
  background: var(--sheet);
  color: var(--ink);
  font-weight: 600;
}
</style>
