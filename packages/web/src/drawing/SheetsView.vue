<script setup lang="ts">
import { findWords, listSheets, showVectors } from '@kindred/contract/drawing/drawing';
import { listIssues } from '@kindred/contract/issues/issues';
import { MARKED_COPIES, startMarkupExport, type Markup } from '@kindred/contract/markup/markup';
import { downloadProduct, downloadVersion, listContainers, showContainer } from '@kindred/contract/register/register';
import { findText } from '@kindred/core/drawing/find-text';
import { METRES_PER_POINT } from '@kindred/core/drawing/scale';
import { LENGTH_UNITS } from '@kindred/core/platform/length';
import { readNumber } from '@kindred/core/platform/number-text';
import { measureOf, pathLength } from '@kindred/core/markup/measure';
import {
  MEASURING_KINDS,
  moved,
  shapeBounds,
  type MarkupShape,
  type MarkupStatus,
  type Point,
} from '@kindred/core/markup/shapes';
import { sayMeasure } from '@kindred/words/measures';
import { counted } from '@kindred/words/sentence';
import { Download, Search } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { useDebounceFn, useEventListener, useLocalStorage } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed, ref, watch } from 'vue';
import { onBeforeRouteLeave, RouterLink, useRoute, useRouter } from 'vue-router';
import { useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import MarkupEditor from '../markup/MarkupEditor.vue';
import MarkupList from '../markup/MarkupList.vue';
import MarkupTable from '../markup/MarkupTable.vue';
import type { Changeable } from '../markup/commands.ts';
import { speaksForItself } from '../markup/kinds.ts';
import type { Mark } from '../markup/markup-stage.ts';
import { useMarkups } from '../markup/markups.ts';
import { MARKUP_LOOK } from '../markup/signs.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import { addressOf, call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { answered, attempt } from '../platform/say.ts';
import { settings } from '../platform/settings.ts';
import { useProject } from '../portfolio/store.ts';
import NewerOffer from '../register/NewerOffer.vue';
import { useFollowNewer } from '../register/newer-versions.ts';
import DrawingList from './DrawingList.vue';
import SheetTools from './SheetTools.vue';
import SheetWords from './SheetWords.vue';
import { useOpenSheet } from './open-sheet.ts';
import { sayScale, useSheetScale } from './sheet-scale.ts';
import { useShownVersion } from './shown-version.ts';
import SheetTable from './table/SheetTable.vue';
import { useDrawnContent } from './table/drawn-content.ts';
import { readView, writeView, type SheetView } from './table/view.ts';
import { SHEET_TOOLS, type SheetTool } from './tools/sheet-tools.ts';
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
const versionId = computed(() => version.value?.id ?? '');
const versionParams = computed(() => ({ ...project.params, versionId: versionId.value }));
const { data: sheets } = useQuery({
  key: () => [project.projectId, 'container', 'sheets', versionId.value],
  query: () => call(listSheets, { params: versionParams.value }),
  enabled: () => version.value !== null,
});
const sheet = computed(() => sheets.value?.find((one) => one.page === page.value));
const markups = useMarkups(() => versionId.value);
const { data: issues } = useQuery({
  key: () => [project.projectId, 'issue', 'on', versionId.value],
  query: () => call(listIssues, { params: project.params, query: { versionId: versionId.value, limit: 200 } }),
  enabled: () => version.value !== null && project.may('issues', 'see'),
});
const onPage = computed(() => markups.list.value.filter((markup) => markup.page === page.value));
const pins = computed(() =>
  (issues.value?.items ?? []).flatMap(({ id, number, place }) =>
    place?.page === page.value ? [{ id, number, x: place.x, y: place.y }] : [],
  ),
);

// The sheet on the table
const { source, broken } = useOpenSheet(() => {
  const open = version.value;
  if (open?.preparation !== 'ready' || (open.kind !== 'drawing' && open.kind !== 'image')) return null;
  return { versionId: open.id, url: addressOf(downloadVersion, versionParams.value), kind: open.kind };
});
const view = ref<SheetView | null>(null);
const table = ref<InstanceType<typeof SheetTable>>();
const marksTable = ref<InstanceType<typeof MarkupTable>>();
const drawn = useDrawnContent(
  () => (source.value && version.value?.kind === 'drawing' ? `${versionId.value}/${page.value}` : ''),
  async () => {
    const params = { ...versionParams.value, page: String(page.value) };
    const answer = await fetch(addressOf(showVectors, params));
    return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : undefined;
  },
);
watch(
  [container, () => query('markup')],
  ([shownContainer, markupId]) => {
    if (markupId) related.select({ type: 'markup', id: markupId });
    else if (shownContainer) related.select({ type: 'container', id: shownContainer.id });
  },
  { immediate: true },
);
/** The place on the sheet is part of the address, until one goes elsewhere: written late it would call them back. */
let leaves = false;
onBeforeRouteLeave(() => void (leaves = true));
const write = useDebounceFn((at: SheetView) => {
  if (!leaves) void router.replace({ query: { ...route.query, at: writeView(at) } });
}, 350);
watch(view, (at) => at && writeView(at) !== query('at') && void write(at));
watch(containerId, () => (view.value = readView(query('at')) ?? null), { immediate: true });

const goPage = (number: number) =>
  router
    .replace({ query: { ...route.query, page: String(number), at: undefined, markup: undefined } })
    .then(() => void (view.value = null));
function stepPage(by: 1 | -1): void {
  const pages = sheets.value?.map((one) => one.page) ?? [];
  const next = pages[pages.indexOf(page.value) + by];
  if (next !== undefined) void goPage(next);
}
const goVersion = (number: number) =>
  router.push({ query: { ...route.query, version: String(number), markup: undefined } });

// Tools
const tools = computed(() => SHEET_TOOLS.filter(({ adds }) => !adds || project.may(adds, 'add')));
const tool = ref('look');
const group = ref<SheetTool['group']>('look');
const active = computed(() => SHEET_TOOLS.find(({ name }) => name === tool.value)!);
watch(tool, () => (group.value = active.value.group));
const sketch = computed(() => {
  const unit = (pixels: number): number => pixels / (view.value?.zoom ?? 1);
  return active.value.sketch?.({
    least: () => unit(6),
    words: () => [Math.max(190, unit(190)), Math.max(52, unit(52))],
  });
});
const mode = computed(() => {
  if (tool.value === 'look' || tool.value === 'choose') return tool.value;
  return tool.value === 'issue' ? 'point' : 'draw';
});
const snap = computed(() => {
  const snapper = active.value.catches ? drawn.value?.snapper : undefined;
  return snapper && ((at: Point, reach: number, from: Point | undefined) => snapper.find(...at, reach, from));
});

// Measures
const scale = useSheetScale(
  () => `${versionId.value}/${page.value}`,
  () => sheet.value?.scale ?? '',
);
const units = useLocalStorage<'project' | typeof settings.units>('measure-units', 'project');
const inUnits = computed(() => ({
  units: units.value === 'project' ? settings.units : units.value,
  inchFraction: settings.inchFraction,
}));
const UNIT_WORDS = { metric: 'metres', millimetres: 'millimetres', 'feet and inches': 'feet and inches' };
/** Where no scale is known a length is that on the paper. */
function measured(shape: MarkupShape, metresPerPoint: number | undefined): string {
  const measure = measureOf(shape, metresPerPoint ?? METRES_PER_POINT);
  const onPaper = metresPerPoint === undefined && (measure?.of === 'length' || measure?.of === 'area');
  return measure ? `${sayMeasure(measure, inUnits.value)}${onPaper ? ' on paper' : ''}` : '';
}
const measureOfDrawn = (shape: MarkupShape): string => measured(shape, scale.metresPerPoint.value);
const measureOfMarkup = ({ shape, metresPerPoint }: Markup): string => measured(shape, metresPerPoint ?? undefined);
async function calibrate(shape: MarkupShape): Promise<void> {
  if (shape.kind !== 'dimension') return;
  const answer = await answered(
    ElMessageBox.prompt('How long is it really, in metres?', 'Calibrate this sheet', {
      confirmButtonText: 'Calibrate',
      cancelButtonText: 'Cancel',
      inputValidator: (text) =>
        (readNumber(text ?? '', navigator.language) ?? 0) > 0 || 'Write a length in metres, such as 3.6.',
    }),
  );
  if (answer) scale.calibrate(pathLength(shape.points), readNumber(answer.value, navigator.language)!);
  tool.value = 'dimension';
}

// Markups
const chosen = ref<string[]>([]);
watch(
  () => query('markup'),
  (id) => id && !chosen.value.includes(id) && (chosen.value = [id]),
  { immediate: true },
);
const mayChange = (markup: Markup): boolean =>
  project.may('markup', 'add') && (markup.author.id === session.me?.id || project.may('markup', 'change'));
const marks = computed(() =>
  onPage.value.map((markup): Mark => {
    const { id, shape, style, status, draft, number } = markup;
    const measure = MEASURING_KINDS.has(shape.kind) ? measureOfMarkup(markup) : '';
    const text = [measure, markup.text].filter(Boolean).join(' · ');
    const { colour, symbol } = MARKUP_LOOK[status];
    const movable = tool.value === 'choose' && mayChange(markup);
    return { id, shape, style, colour, text, tag: `${number} ${symbol}`, draft, movable };
  }),
);
const chosenMarkups = computed(() => onPage.value.filter(({ id }) => chosen.value.includes(id)));
function choose(ids: string[]): void {
  chosen.value = ids;
  void router.replace({ query: { ...route.query, markup: ids.length === 1 ? ids[0] : undefined } });
}
/** What was drawn and waits for its words, or a draft whose words are changed. */
const pending = ref<MarkupShape | null>(null);
const edited = ref<Markup | null>(null);
const place = ref<Point | null>(null);
const saving = ref(false);
const newMarkup = (shape: MarkupShape, text: string, status: MarkupStatus): Changeable => ({
  page: page.value,
  shape,
  style: {},
  metresPerPoint: MEASURING_KINDS.has(shape.kind) ? (scale.metresPerPoint.value ?? null) : null,
  text,
  status,
});
async function take(shape: MarkupShape): Promise<void> {
  if (tool.value === 'calibrate') await calibrate(shape);
  else if (speaksForItself(shape.kind)) await markups.add([newMarkup(shape, '', 'note')]);
  else pending.value = shape;
}
async function save(text: string, status: MarkupStatus): Promise<void> {
  saving.value = true;
  const saved = edited.value
    ? await markups.change([{ markup: edited.value, after: { text, status } }])
    : await markups.add([newMarkup(pending.value!, text, status)]);
  saving.value = false;
  if (saved) pending.value = edited.value = null;
}
const reshape = (id: string, shape: MarkupShape) => {
  const markup = onPage.value.find((one) => one.id === id);
  if (markup) void markups.change([{ markup, after: { shape } }]);
};
function move(ids: readonly string[], dx: number, dy: number): void {
  const those = onPage.value.filter((markup) => ids.includes(markup.id) && mayChange(markup));
  void markups.change(those.map((markup) => ({ markup, after: { shape: moved(markup.shape, dx, dy) } })));
}
async function removeChosen(): Promise<void> {
  const drafts = chosenMarkups.value.filter(({ draft, author }) => draft && author.id === session.me?.id);
  if (drafts.length && (await markups.remove(drafts))) choose([]);
}
/** Copied markups can be put on another sheet, at the same place. */
const copied = useLocalStorage<Changeable[]>('copied-markups', []);
const copy = (): void => {
  copied.value = chosenMarkups.value.map(({ shape, style, metresPerPoint, text, status }) => ({
    ...{ page: page.value, shape, style, metresPerPoint, text, status },
  }));
};
const paste = (): Promise<boolean> =>
  markups.add(
    copied.value.map((one) => ({
      ...one,
      shape: one.page === page.value ? moved(one.shape, 12, 12) : one.shape,
      page: page.value,
    })),
  );
function show(markup: Markup): void {
  table.value?.showBox(shapeBounds(markup.shape));
  chosen.value = [markup.id];
  void router.replace({ query: { ...route.query, page: String(markup.page), markup: markup.id } });
}
watch([() => query('markup'), onPage, source], ([id, list, opened], [before]) => {
  const markup = list.find((item) => item.id === id);
  if (markup && opened && id !== before && !query('at'))
    setTimeout(() => table.value?.showBox(shapeBounds(markup.shape)), 60);
});

const jobs = useJobs();
const COPY_WORDS = {
  pdf: 'PDF with the published markups as annotations',
  'flattened pdf': 'PDF with the published markups drawn in',
  xfdf: 'The published markups alone (XFDF)',
};
const takeAlong = (as: (typeof MARKED_COPIES)[number]): Promise<boolean> =>
  attempt(async () => jobs.follow(await call(startMarkupExport, { params: versionParams.value, body: { as } })));

// Words
const finding = ref(query('find') !== '');
const words = ref(query('find'));
const at = ref(0);
const found = computed(() => findText(drawn.value?.texts ?? [], words.value));
watch([found, finding], () => {
  at.value = 0;
  if (finding.value) showFound(0);
});
function showFound(i: number): void {
  const hit = found.value[i];
  if (!hit) return;
  at.value = i;
  table.value?.showBox(hit.box);
}
const { data: elsewhere } = useQuery({
  key: () => [project.projectId, 'container', 'words', containerId.value, words.value.trim()],
  query: () =>
    call(findWords, {
      params: project.params,
      query: { q: words.value.trim(), containerId: containerId.value, limit: 100 },
    }),
  enabled: () => finding.value && words.value.trim().length > 1 && /[\p{L}\p{N}]/u.test(words.value),
});
const others = computed(() => elsewhere.value?.items.filter((hit) => hit.page !== page.value) ?? []);

const NUDGES: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
useEventListener('keydown', (event: KeyboardEvent) => {
  if (isTyping(event.target) || pending.value || edited.value) return;
  const key = event.key.toLowerCase();
  if (event.ctrlKey || event.metaKey) {
    const act = { z: event.shiftKey ? markups.redo : markups.undo, y: markups.redo, c: copy, v: paste }[key];
    if (key === 'f') {
      event.preventDefault();
      finding.value = true;
    } else if (act && (key !== 'c' || chosen.value.length)) {
      event.preventDefault();
      void act();
    }
    return;
  }
  const nudge = NUDGES[event.key];
  if (nudge && chosen.value.length && tool.value === 'choose') {
    event.preventDefault();
    const by = (event.shiftKey ? 10 : 1) / (view.value?.zoom ?? 1);
    move(chosen.value, nudge[0] * by, nudge[1] * by);
  } else if (event.key === 'Escape') {
    tool.value = 'look';
    choose([]);
  } else if (event.key === 'Enter') marksTable.value?.finish();
  else if (event.key === 'Delete') void removeChosen();
  else if (event.key === 'PageDown') stepPage(1);
  else if (event.key === 'PageUp') stepPage(-1);
  else if (key === '0') table.value?.fit();
  else if (key === '9') table.value?.fitWidth();
  else if (key === 'r') table.value?.turn();
  else if (key === '+') table.value?.zoomAt(1.4);
  else if (key === '-') table.value?.zoomAt(1 / 1.4);
  else tool.value = tools.value.find((one) => one.key === key)?.name ?? tool.value;
});

const pictureOf = (id: string): string => {
  const wanted = drawings.value?.items.find((drawing) => drawing.id === id)?.versionId ?? '';
  return addressOf(downloadProduct, { ...project.params, versionId: wanted, product: 'thumbnail' });
};
const addressOfDrawing = (id: string): string =>
  router.resolve({ name: 'sheets', params: { ...project.params, containerId: id } }).href;
const labelOf = (number: number): string =>
  (sheets.value?.length ?? 0) > 1 ? (sheets.value!.find((one) => one.page === number)?.label ?? '') : '';
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
            ><el-option v-for="one in sheets" :key="one.id" :value="one.page" :label="one.label"
          /></el-select>
          <el-dropdown v-if="version.kind === 'drawing'" trigger="click">
            <button class="button-link mono" aria-label="Scale and units of measures">
              {{ scale.metresPerPoint.value ? sayScale(scale.metresPerPoint.value) : 'No scale' }}
            </button>
            <template #dropdown>
              <el-dropdown-menu>
                <el-dropdown-item @click="tool = 'calibrate'">Calibrate by a length that you know …</el-dropdown-item>
                <el-dropdown-item v-if="scale.isCalibrated.value" @click="scale.forget()"
                  >Take the scale of the title block</el-dropdown-item
                >
                <el-dropdown-item divided :disabled="units === 'project'" @click="units = 'project'"
                  >Measure as the project does</el-dropdown-item
                >
                <el-dropdown-item
                  v-for="unit in LENGTH_UNITS"
                  :key="unit"
                  :disabled="units === unit"
                  @click="units = unit"
                  >Measure in {{ UNIT_WORDS[unit] }}</el-dropdown-item
                >
              </el-dropdown-menu>
            </template>
          </el-dropdown>
          <button class="button-link row" title="Find words (Ctrl F)" @click="finding = !finding">
            <Search :size="15" /> Find
          </button>
          <RouterLink :to="{ name: 'sheet-register', params: project.params }">Sheet register</RouterLink>
          <RouterLink :to="{ name: 'container', params: { projectId: project.projectId, containerId } }"
            >Versions</RouterLink
          >
        </div>
        <div class="canvas-box">
          <div v-if="source" class="surface">
            <SheetTable ref="table" v-model:view="view" :source="source" :page="page" :pans="tool === 'look'">
              <template #default="{ view: shownView, window }">
                <MarkupTable
                  ref="marksTable"
                  :marks="marks"
                  :pins="pins"
                  :view="shownView"
                  :window="window"
                  :mode="mode"
                  :sketch="sketch"
                  :chosen="chosen"
                  :snap="snap"
                  :found="finding ? found[at]?.box : undefined"
                  :say-measure="measureOfDrawn"
                  @drawn="take"
                  @choose="choose"
                  @reshaped="reshape"
                  @moved="move"
                  @point="place = $event"
                  @pin="router.push({ name: 'issue', params: { projectId: project.projectId, issueId: $event } })"
                />
              </template>
            </SheetTable>
            <SheetWords
              v-if="finding"
              v-model="words"
              :found="found"
              :at="at"
              :others="others"
              :ready="drawn !== undefined"
              @step="showFound((at + $event + found.length) % (found.length || 1))"
              @show="showFound"
              @page="goPage"
              @close="finding = false"
            />
          </div>
          <EmptyPlace
            v-else-if="version.preparation === 'failed'"
            title="This version could not be prepared"
            style="margin: 40px"
            >{{ version.preparationNote }}</EmptyPlace
          >
          <EmptyPlace v-else-if="broken" :title="broken" style="margin: 40px" />
          <p v-else class="quiet" style="padding: 20px">Opening …</p>
          <SheetTools
            v-model:tool="tool"
            v-model:group="group"
            :tools="tools"
            :marks="project.may('markup', 'add')"
            :may-undo="markups.mayUndo.value"
            :may-redo="markups.mayRedo.value"
            @zoom="table?.zoomAt($event)"
            @fit="table?.fit()"
            @width="table?.fitWidth()"
            @turn="table?.turn()"
            @undo="markups.undo"
            @redo="markups.redo"
          />
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
    <SideList v-if="container" class="marks" title="Markups" :chosen="counted(markups.list.value.length, 'markup')">
      <div class="marks-inner">
        <el-dropdown v-if="version?.kind === 'drawing' && markups.list.value.length" trigger="click" class="export">
          <button class="button-link row"><Download :size="15" /> Take them along</button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item v-for="as in MARKED_COPIES" :key="as" @click="takeAlong(as)">{{
                COPY_WORDS[as]
              }}</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
        <MarkupList
          :markups="markups.loaded.value ? markups.list.value : undefined"
          :here="chosen"
          :may-change="project.may('markup', 'add')"
          :measure-of="measureOfMarkup"
          :sheet-of="labelOf"
          @show="show"
          @publish="markups.publish"
          @edit="edited = $event"
          @remove="markups.remove([$event])"
          @set-status="(markup, status) => markups.change([{ markup, after: { status } }])"
        />
      </div>
    </SideList>
    <MarkupEditor
      v-if="pending || edited"
      :shape="pending ?? edited!.shape"
      :text="edited?.text"
      :status="edited?.status"
      :saving="saving"
      :verb="edited ? 'Save' : 'Save as draft'"
      @save="save"
      @close="pending = edited = null"
    />
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
.surface {
  position: relative;
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
    min-width: 140px;
    width: auto !important;
  }
}
</style>
