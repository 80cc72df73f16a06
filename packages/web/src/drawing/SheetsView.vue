<script setup lang="ts">
import { listSheets } from '@kindred/contract/drawing/drawing';
import { listIssues } from '@kindred/contract/issues/issues';
import {
  addMarkup,
  changeMarkup,
  deleteMarkup,
  listMarkups,
  publishMarkups,
  type Markup,
} from '@kindred/contract/markup/markup';
import { downloadProduct, downloadVersion, listContainers, showContainer } from '@kindred/contract/register/register';
import { shapeBounds, type MarkupShape, type MarkupStatus, type Point } from '@kindred/core/markup/shapes';
import { counted } from '@kindred/words/sentence';
import { Maximize, ZoomIn, ZoomOut } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { useDebounceFn, useEventListener } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import MarkupEditor from '../markup/MarkupEditor.vue';
import MarkupLayer from '../markup/MarkupLayer.vue';
import MarkupList from '../markup/MarkupList.vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import ToolStrip from '../platform/ToolStrip.vue';
import { addressOf, call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import NewerOffer from '../register/NewerOffer.vue';
import { useFollowNewer } from '../register/newer-versions.ts';
import DrawingList from './DrawingList.vue';
import { useOpenSheet } from './open-sheet.ts';
import { SHEET_TOOLS } from './sheet-tools.ts';
import { useShownVersion } from './shown-version.ts';
import SheetCanvas, { type SheetView } from './SheetCanvas.vue';
import { useRouteQuery } from '../platform/route-query.ts';
import { isTyping } from '../platform/keyboard.ts';
import { usePageSubject } from '../platform/page-title.ts';

const route = useRoute();
const router = useRouter();
const project = useProject();
const session = useSession();
const related = useRelated();
const containerId = computed(() => (typeof route.params.containerId === 'string' ? route.params.containerId : ''));
const { query } = useRouteQuery();
const page = computed(() => Math.max(1, Number(query('page')) || 1));

const { data: drawings } = useQuery({
  key: () => [project.projectId, 'container', 'drawings'],
  query: () => call(listContainers, { params: project.params, query: { kind: 'drawing', limit: 200 } }),
});
const { data: shown, error } = useQuery({
  key: () => [project.projectId, 'container', containerId.value],
  query: () => call(showContainer, { params: { ...project.params, containerId: containerId.value } }),
  enabled: () => containerId.value !== '',
});
const container = computed(() =>
  containerId.value && shown.value?.container.id === containerId.value ? shown.value.container : null,
);
const followNewer = useFollowNewer();
const version = useShownVersion(
  () => (container.value && shown.value) ?? null,
  () => Number(query('version')),
  () => followNewer.value,
);
const versionParams = computed(() => ({ ...project.params, versionId: version.value?.id ?? '' }));
const { data: sheets } = useQuery({
  key: () => [project.projectId, 'container', 'sheets', version.value?.id ?? ''],
  query: () => call(listSheets, { params: versionParams.value }),
  enabled: () => version.value !== null,
});
const { data: markups, refetch } = useQuery({
  key: () => [project.projectId, 'markup', version.value?.id ?? ''],
  query: () => call(listMarkups, { params: versionParams.value }),
  enabled: () => version.value !== null && project.may('markup', 'see'),
});
const { data: issues } = useQuery({
  key: () => [project.projectId, 'issue', 'on', version.value?.id ?? ''],
  query: () => call(listIssues, { params: project.params, query: { versionId: version.value!.id, limit: 200 } }),
  enabled: () => version.value !== null && project.may('issues', 'see'),
});
const onPage = computed(() => (markups.value ?? []).filter((markup) => markup.page === page.value));
const pins = computed(() =>
  (issues.value?.items ?? []).flatMap(({ id, number, place }) =>
    place?.page === page.value ? [{ id, number, x: place.x, y: place.y }] : [],
  ),
);

const { source, broken } = useOpenSheet(() => {
  const open = version.value;
  if (open?.preparation !== 'ready' || (open.kind !== 'drawing' && open.kind !== 'image')) return null;
  return { versionId: open.id, url: addressOf(downloadVersion, versionParams.value), kind: open.kind };
});
const view = ref<SheetView | null>(null);
const canvas = ref<InstanceType<typeof SheetCanvas>>();
watch(
  [container, () => query('markup')],
  ([shownContainer, markupId]) => {
    if (markupId) related.select({ type: 'markup', id: markupId });
    else if (shownContainer) related.select({ type: 'container', id: shownContainer.id });
  },
  { immediate: true },
);

/** The place on the sheet is part of the address. */
const written = (at: SheetView): string => [at.x, at.y, at.zoom].map((value) => Number(value.toFixed(4))).join(',');
const write = useDebounceFn(
  (at: SheetView) => void router.replace({ query: { ...route.query, at: written(at) } }),
  350,
);
watch(view, (at) => at && written(at) !== query('at') && void write(at));
watch(
  containerId,
  () => {
    const at = query('at').split(',').map(Number);
    view.value = at.length === 3 && at.every(Number.isFinite) ? { x: at[0]!, y: at[1]!, zoom: at[2]! } : null;
  },
  { immediate: true },
);

const tools = computed(() => SHEET_TOOLS.filter(({ adds }) => !adds || project.may(adds, 'add')));
const tool = ref('look');
const active = computed(() => SHEET_TOOLS.find(({ name }) => name === tool.value)!);
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.ctrlKey || event.metaKey || isTyping(event.target)) return;
  if (event.key === 'Escape') tool.value = 'look';
  else if (event.key === '0') canvas.value?.fit();
  else tool.value = tools.value.find(({ key }) => key === event.key.toLowerCase())?.name ?? tool.value;
});

const pending = ref<MarkupShape | null>(null);
const place = ref<Point | null>(null);
const saving = ref(false);
async function saveDraft(text: string, status: MarkupStatus): Promise<void> {
  saving.value = true;
  const saved = await attempt(() =>
    call(addMarkup, { params: versionParams.value, body: { page: page.value, shape: pending.value!, text, status } }),
  );
  saving.value = false;
  if (!saved) return;
  pending.value = null;
  tool.value = 'look';
  await refetch();
}
async function publish(list: Markup[]): Promise<void> {
  const done = await attempt(() =>
    call(publishMarkups, { params: versionParams.value, body: { markupIds: list.map(({ id }) => id) } }),
  );
  if (done)
    sayDone(
      `${counted(list.length, 'markup')} published: whoever sees this sheet sees ${list.length === 1 ? 'it' : 'them'}.`,
    );
  await refetch();
}
async function setStatus(markup: Markup, status: MarkupStatus): Promise<void> {
  await attempt(() =>
    call(changeMarkup, {
      params: { ...project.params, markupId: markup.id },
      body: { edition: markup.edition, status },
    }),
  );
  await refetch();
}
async function remove(markup: Markup): Promise<void> {
  await attempt(() => call(deleteMarkup, { params: { ...project.params, markupId: markup.id } }));
  await refetch();
}
function show(markup: Markup): void {
  canvas.value?.showBox(shapeBounds(markup.shape));
  void router.replace({ query: { ...route.query, page: String(markup.page), markup: markup.id } });
}
watch([() => query('markup'), onPage, source], ([id, list, opened], [before]) => {
  const markup = list.find((item) => item.id === id);
  if (markup && opened && id !== before && !query('at'))
    setTimeout(() => canvas.value?.showBox(shapeBounds(markup.shape)), 60);
});
const goPage = (number: number) =>
  router
    .replace({ query: { ...route.query, page: String(number), at: undefined, markup: undefined } })
    .then(() => void (view.value = null));
const goVersion = (number: number) =>
  router.push({ query: { ...route.query, version: String(number), markup: undefined } });
const pictureOf = (id: string): string => {
  const versionId = drawings.value?.items.find((drawing) => drawing.id === id)?.versionId ?? '';
  return addressOf(downloadProduct, { ...project.params, versionId, product: 'thumbnail' });
};
const addressOfDrawing = (id: string): string =>
  router.resolve({ name: 'sheets', params: { ...project.params, containerId: id } }).href;
usePageSubject(() => container.value?.title || container.value?.code);
</script>

<template>
  <div class="sheets">
    <h1 class="said-only">Sheets</h1>
    <SideList v-slot="{ close }" title="Sheets" :chosen="container?.title">
      <DrawingList
        :drawings="drawings?.items ?? []"
        :here="containerId"
        :address-of="addressOfDrawing"
        :picture-of="pictureOf"
        :loaded="drawings !== undefined"
        @chosen="close"
      />
    </SideList>
    <section class="middle">
      <template v-if="container && version">
        <NewerOffer
          v-if="version.number < container.versionNumber"
          :text="`Version ${container.versionNumber} is there; you see version ${version.number}.`"
          @take="goVersion(container.versionNumber)"
          ><label class="row"><input v-model="followNewer" type="checkbox" /> always at once</label></NewerOffer
        >
        <div class="head row">
          <b class="mono">{{ container.code }}</b>
          <el-select
            :model-value="version.number"
            size="small"
            style="width: 150px"
            aria-label="Version"
            @update:model-value="goVersion"
          >
            <el-option
              v-for="item in shown!.versions"
              :key="item.id"
              :value="item.number"
              :label="`Version ${item.number} · ${item.revision}`"
            />
          </el-select>
          <span class="spread" />
          <el-select
            v-if="(sheets?.length ?? 0) > 1"
            :model-value="page"
            size="small"
            style="width: 150px"
            aria-label="Sheet"
            @update:model-value="goPage"
            ><el-option v-for="sheet in sheets" :key="sheet.id" :value="sheet.page" :label="sheet.label"
          /></el-select>
          <RouterLink :to="{ name: 'container', params: { projectId: project.projectId, containerId } }"
            >Versions</RouterLink
          >
        </div>
        <div class="canvas-box">
          <SheetCanvas v-if="source" ref="canvas" v-model:view="view" :source="source" :page="page" :tool="tool">
            <template #default="{ zoom, size }">
              <MarkupLayer
                :markups="onPage"
                :zoom="zoom"
                :size="size"
                :tool="tool"
                :selected="query('markup') || null"
                :pins="pins"
                @drawn="pending = $event"
                @select="router.replace({ query: { ...route.query, markup: $event } })"
                @point="place = $event"
                @pin="router.push({ name: 'issue', params: { projectId: project.projectId, issueId: $event } })"
              />
            </template>
          </SheetCanvas>
          <EmptyPlace
            v-else-if="version.preparation === 'failed'"
            title="This version could not be prepared"
            style="margin: 40px"
            >{{ version.preparationNote }}</EmptyPlace
          >
          <EmptyPlace v-else-if="broken" :title="broken" style="margin: 40px" />
          <p v-else class="quiet" style="padding: 20px">Opening …</p>
          <ToolStrip label="Tools of the sheet">
            <button
              v-for="item in tools"
              :key="item.name"
              :class="{ active: tool === item.name }"
              :title="`${item.word} (${item.key.toUpperCase()})`"
              @click="tool = item.name"
            >
              <component :is="item.icon" :size="16" :stroke-width="1.5" /> {{ item.word }}
            </button>
            <i />
            <button title="Closer" @click="canvas?.zoomAt(1.4)"><ZoomIn :size="16" :stroke-width="1.5" /></button>
            <button title="Farther" @click="canvas?.zoomAt(1 / 1.4)"><ZoomOut :size="16" :stroke-width="1.5" /></button>
            <button title="Whole sheet (0)" @click="canvas?.fit()"><Maximize :size="16" :stroke-width="1.5" /></button>
            <span class="hint">{{ active.hint }}</span>
          </ToolStrip>
        </div>
      </template>
      <EmptyPlace
        v-else-if="error && containerId"
        title="There is no such drawing, or you may not see it"
        style="margin: 40px"
        >Choose one from the list.</EmptyPlace
      >
      <EmptyPlace v-else title="Choose a drawing" style="margin: 40px"
        >It opens at full sharpness, with its markups and issues.</EmptyPlace
      >
    </section>
    <SideList v-if="container" class="marks" title="Markups" :chosen="counted(markups?.length ?? 0, 'markup')">
      <div class="marks-inner">
        <MarkupList
          :markups="markups"
          :here="query('markup')"
          :may-change="project.may('markup', 'add')"
          @show="show"
          @publish="publish"
          @remove="remove"
          @set-status="setStatus"
        />
      </div>
    </SideList>
    <MarkupEditor v-if="pending" :shape="pending" :saving="saving" @save="saveDraft" @close="pending = null" />
    <RaiseIssueDialog
      v-if="place && version && session.me"
      :place="{ versionId: version.id, page, x: place[0], y: place[1] }"
      @close="((place = null), (tool = 'look'))"
    />
  </div>
</template>

<style scoped>
.sheets {
  height: 100%;
  display: grid;
  grid-template-columns: 176px minmax(0, 1fr) auto;
}
.middle {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.head {
  padding: 5px 12px;
  border-bottom: 1px solid var(--hairline);
  min-height: 36px;
}
.canvas-box {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.canvas-box > :first-child {
  flex: 1;
  min-height: 0;
}
.hint {
  margin-left: 8px;
  color: var(--graphite);
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.sheets > .marks {
  width: 208px;
  border-left: 1px solid var(--hairline);
  border-right: 0;
}
.marks-inner {
  padding: 10px 12px;
}
@media (max-width: 700px) {
  .sheets {
    grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr);
  }
  .sheets > .marks {
    width: auto;
    border-left: 0;
  }
  .head .el-select {
    flex: 1;
    width: auto !important;
  }
  .hint {
    display: none;
  }
}
</style>
