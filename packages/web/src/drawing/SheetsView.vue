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
import {
  MARKUP_STATUSES,
  shapeBounds,
  type MarkupShape,
  type MarkupStatus,
  type Point,
} from '@kindred/core/markup/shapes';
import {
  ArrowUpRight,
  Cloud,
  Flag,
  Hand,
  Maximize,
  MessageSquare,
  RectangleHorizontal,
  ZoomIn,
  ZoomOut,
} from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { useDebounceFn, useEventListener, useLocalStorage } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { useKin } from '../frame/kin.ts';
import { useSession } from '../identity/store.ts';
import RaiseIssue from '../issues/RaiseIssue.vue';
import MarkupEditor from '../markup/MarkupEditor.vue';
import MarkupLayer from '../markup/MarkupLayer.vue';
import { MARKUP_LOOK } from '../markup/signs.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { addressOf, call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import NewerOffer from '../register/NewerOffer.vue';
import { openPdf, openPicture, type SheetSource } from './pdf.ts';
import SheetCanvas, { type SheetView } from './SheetCanvas.vue';

const route = useRoute();
const router = useRouter();
const project = useProject();
const session = useSession();
const kin = useKin();
const containerId = computed(() => (typeof route.params.containerId === 'string' ? route.params.containerId : ''));
const query = (name: string): string => (typeof route.query[name] === 'string' ? route.query[name] : '');
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
/** The version that was current when the drawing was opened: a newer one is offered, it does not push this one away. */
const pinned = ref(0);
const followNewer = useLocalStorage('follow-newer-versions', false);
watch(
  () => container.value && [container.value.id, container.value.versionNumber],
  (now, before) => {
    if (now && (now[0] !== before?.[0] || followNewer.value)) pinned.value = Number(now[1]);
  },
  { immediate: true },
);
const version = computed(() => {
  if (!container.value || !shown.value) return null;
  const { versions } = shown.value;
  const numbered = (wanted: number) => versions.find(({ number }) => number === wanted);
  return (
    numbered(Number(query('version'))) ??
    numbered(pinned.value) ??
    versions.find(({ id }) => id === container.value!.versionId)!
  );
});
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
const drafts = computed(() => (markups.value ?? []).filter(({ draft }) => draft));
const pins = computed(() =>
  (issues.value?.items ?? []).flatMap(({ id, number, place }) =>
    place?.page === page.value ? [{ id, number, x: place.x, y: place.y }] : [],
  ),
);

const source = shallowRef<SheetSource>();
const broken = ref('');
const view = ref<SheetView | null>(null);
const canvas = ref<InstanceType<typeof SheetCanvas>>();
watch(
  () => version.value?.id,
  async (versionId) => {
    source.value?.close();
    source.value = undefined;
    broken.value = '';
    if (!versionId || version.value!.preparation !== 'ready') return;
    const url = addressOf(downloadVersion, versionParams.value);
    const open = version.value!.kind === 'image' ? openPicture : openPdf;
    try {
      const opened = await open(url);
      if (version.value?.id === versionId) source.value = opened;
    } catch {
      broken.value = 'The drawing could not be opened in this browser. Download it from its lineage instead.';
    }
  },
  { immediate: true },
);
onBeforeUnmount(() => source.value?.close());
watch(
  [container, () => query('markup')],
  ([shownContainer, markupId]) => {
    if (markupId) kin.select({ type: 'markup', id: markupId });
    else if (shownContainer) kin.select({ type: 'container', id: shownContainer.id });
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

const TOOLS = [
  { name: 'look', word: 'Move', key: 'v', icon: Hand, hint: 'Drag to move, turn the wheel to come closer.' },
  { name: 'cloud', word: 'Cloud', key: 'c', icon: Cloud, hint: 'Drag across what has to change.' },
  {
    name: 'callout',
    word: 'Callout',
    key: 'o',
    icon: MessageSquare,
    hint: 'Drag from what you point at to where the words shall stand.',
  },
  { name: 'rectangle', word: 'Box', key: 'b', icon: RectangleHorizontal, hint: 'Drag a box.' },
  { name: 'arrow', word: 'Arrow', key: 'a', icon: ArrowUpRight, hint: 'Drag from the tail to the point.' },
  { name: 'issue', word: 'Issue', key: 'i', icon: Flag, hint: 'Click where the issue is.' },
] as const;
const tools = computed(() =>
  TOOLS.filter(
    ({ name }) => name === 'look' || (name === 'issue' ? project.may('issues', 'add') : project.may('markup', 'add')),
  ),
);
const tool = ref<string>('look');
const active = computed(() => TOOLS.find(({ name }) => name === tool.value)!);
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.ctrlKey || event.metaKey || /^(?:INPUT|TEXTAREA)$/.test((event.target as HTMLElement).tagName)) return;
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
    sayDone(`${list.length} published: everybody who sees this sheet sees ${list.length === 1 ? 'it' : 'them'} now.`);
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
const thumbnail = (versionId: string): string =>
  addressOf(downloadProduct, { ...project.params, versionId, product: 'thumbnail' });
</script>

<template>
  <div class="sheets">
    <nav class="list" aria-label="Sheets">
      <RouterLink
        v-for="drawing in drawings?.items"
        :key="drawing.id"
        :to="{ name: 'sheets', params: { projectId: project.projectId, containerId: drawing.id } }"
        class="entry"
        :class="{ here: drawing.id === containerId }"
      >
        <span class="thumb"
          ><img v-if="drawing.preparation === 'ready'" :src="thumbnail(drawing.versionId)" alt="" loading="lazy"
        /></span>
        <b>{{ drawing.title || drawing.fileName }}</b>
        <small class="mono quiet">{{ drawing.code }}</small>
        <small v-if="drawing.preparation !== 'ready'" class="sign caution">{{ drawing.preparation }}</small>
      </RouterLink>
      <EmptyPlace v-if="drawings && !drawings.items.length" title="No drawing yet" style="margin: 10px"
        >Deliver a PDF to the register.</EmptyPlace
      >
    </nav>
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
            >Lineage</RouterLink
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
          <div class="tool-strip" role="toolbar" aria-label="Tools">
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
          </div>
        </div>
      </template>
      <EmptyPlace
        v-else-if="error && containerId"
        title="There is no such drawing, or you may not see it"
        style="margin: 40px"
        >Choose one on the left.</EmptyPlace
      >
      <EmptyPlace v-else title="Choose a drawing" style="margin: 40px"
        >It opens at full sharpness, with its markups and issues.</EmptyPlace
      >
    </section>
    <aside v-if="container" class="marks" aria-label="Markups">
      <div class="row">
        <h2>Markups</h2>
        <span class="spread" />
        <el-button v-if="drafts.length" type="primary" size="small" @click="publish(drafts)"
          >Publish {{ drafts.length }} {{ drafts.length === 1 ? 'draft' : 'drafts' }}</el-button
        >
      </div>
      <p v-if="markups && !markups.length" class="quiet">
        None on this version. Choose a tool below the sheet and draw.
      </p>
      <article
        v-for="markup in markups"
        :key="markup.id"
        :class="{ here: markup.id === query('markup') }"
        @click="show(markup)"
      >
        <div class="row">
          <b class="mono">{{ markup.number }}</b><span :class="MARKUP_LOOK[markup.status].sign">{{
            markup.status
          }}</span
          ><span v-if="markup.draft" class="draft">draft</span><span class="spread" /><small class="quiet">{{
            markup.author.initials
          }}</small>
        </div>
        <p>{{ markup.text }}</p>
        <div class="row" @click.stop>
          <template v-if="markup.draft"
            ><button class="button-link" @click="publish([markup])">Publish</button
            ><button class="button-link" @click="remove(markup)">Delete</button></template
          >
          <el-select
            v-else-if="project.may('markup', 'add')"
            :model-value="markup.status"
            size="small"
            style="width: 110px"
            :aria-label="`Status of markup ${markup.number}`"
            @update:model-value="setStatus(markup, $event)"
            ><el-option v-for="status in MARKUP_STATUSES" :key="status" :value="status" :label="status"
          /></el-select>
        </div>
      </article>
    </aside>
    <MarkupEditor v-if="pending" :shape="pending" :saving="saving" @save="saveDraft" @close="pending = null" />
    <RaiseIssue
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
.list {
  border-right: 1px solid var(--hairline);
  overflow: auto;
}
.entry {
  display: grid;
  padding: 10px 12px;
  border-bottom: 1px solid var(--hairline);
  color: var(--ink);
}
.entry:hover {
  text-decoration: none;
  background: var(--wash);
}
.entry.here {
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--action);
}
.entry small {
  font-size: 10.5px;
  overflow-wrap: anywhere;
}
.thumb {
  height: 96px;
  display: grid;
  place-items: center;
  background: var(--wash);
  margin-bottom: 6px;
}
.thumb img {
  max-width: 100%;
  max-height: 96px;
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
.marks {
  width: 208px;
  border-left: 1px solid var(--hairline);
  padding: 10px 12px;
  overflow: auto;
}
article {
  padding: 8px;
  margin: 0 -8px;
  border-bottom: 1px solid var(--hairline);
  cursor: pointer;
}
article:hover,
article.here {
  background: var(--sheet);
}
article p {
  margin: 4px 0;
  overflow-wrap: anywhere;
}
.draft {
  border: 1px dashed var(--graphite);
  padding: 0 4px;
  font-size: 11px;
  border-radius: 3px;
}
</style>
