<script setup lang="ts">
/** A version of a drawing on the table: looked at, measured, marked; its markups beside it. */
import { listRecognisedWords, listSheets, showVectors } from '@kindred/contract/drawing/drawing';
import { listIssues } from '@kindred/contract/issues/issues';
import { showMarkupPicture, type Markup } from '@kindred/contract/markup/markup';
import { downloadVersion } from '@kindred/contract/register/register';
import {
  MEASURING_KINDS,
  OPEN_MARKUP_STATUSES,
  shapeBounds,
  type MarkupShape,
  type MarkupStyle,
  type Point,
} from '@kindred/core/markup/shapes';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { aligned, quarterTurned, spread, turned } from '@kindred/core/markup/arrange';
import { showStampPicture } from '@kindred/contract/markup/stamps';
import { counted } from '@kindred/words/sentence';
import { useQuery } from '@pinia/colada';
import { useDebounceFn, useElementSize, useFullscreen } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { onBeforeRouteLeave, RouterLink, useRoute, useRouter } from 'vue-router';
import { useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import { around, asPng, drawPlace } from './place-picture.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import ArrangeMenu from '../markup/ArrangeMenu.vue';
import MarkupEditor from '../markup/MarkupEditor.vue';
import MarkupPanel from '../markup/MarkupPanel.vue';
import MarkupTable from '../markup/MarkupTable.vue';
import StampStrip from '../markup/StampStrip.vue';
import StyleBar from '../markup/StyleBar.vue';
import { marksOnPaper } from '../markup/marks-on-paper.ts';
import { usePlacing } from '../markup/placing.ts';
import type { Mark } from '../markup/markup-stage.ts';
import { useChosenMarkups } from '../markup/chosen-markups.ts';
import { useMarkups } from '../markup/markups.ts';
import { MARKUP_LOOK } from '../markup/signs.ts';
import PlanElementPanel from '../plan/PlanElementPanel.vue';
import PlanLinkPanel from '../plan/PlanLinkPanel.vue';
import PlanMenu from '../plan/PlanMenu.vue';
import PlanOverlay from '../plan/PlanOverlay.vue';
import { usePlanOfSheet } from '../plan/plan-of-sheet.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import { addressOf, call } from '../platform/api.ts';
import { settings } from '../platform/settings.ts';
import { useProject } from '../portfolio/store.ts';
import SheetBeside from './SheetBeside.vue';
import SheetHead from './SheetHead.vue';
import SheetPages from './SheetPages.vue';
import SheetTools from './SheetTools.vue';
import SheetWords from './SheetWords.vue';
import { useBeside } from './beside.ts';
import { useMeasuring } from './measuring.ts';
import { useOpenSheet } from './open-sheet.ts';
import { askForPages, printSheets } from './print-sheets.ts';
import { useSheetKeys } from './sheet-keys.ts';
import MiniMap from './table/MiniMap.vue';
import SheetTable from './table/SheetTable.vue';
import type { SheetLayer } from './table/pdf-worker.ts';
import { useDrawnContent } from './table/drawn-content.ts';
import { readView, toWindow, writeView, type SheetView } from './table/view.ts';
import { useWordSearch } from './word-search.ts';
import { SHEET_TOOLS, type SheetTool } from './tools/sheet-tools.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { attempt, sayProblem } from '../platform/say.ts';

interface Version {
  id: string;
  number: number;
  revision: string;
  kind: string;
  preparation: string;
  preparationNote: string;
}
const props = defineProps<{
  container: { id: string; code: string };
  versions: readonly Version[];
  version: Version;
}>();
const route = useRoute();
const router = useRouter();
const project = useProject();
const session = useSession();
const related = useRelated();
const { query } = useRouteQuery();
const page = computed(() => Math.max(1, Number(query('page')) || 1));

const containerId = computed(() => props.container.id);
const versionId = computed(() => props.version.id);
const versionParams = computed(() => ({ ...project.params, versionId: versionId.value }));
const { data: sheets } = useQuery({
  key: () => [project.projectId, 'container', 'sheets', versionId.value],
  query: () => call(listSheets, { params: versionParams.value }),
});
const sheet = computed(() => sheets.value?.find((one) => one.page === page.value));
const markups = useMarkups(() => versionId.value);
const { data: issues } = useQuery({
  key: () => [project.projectId, 'issue', 'on', versionId.value],
  query: () => call(listIssues, { params: project.params, query: { versionId: versionId.value, limit: 200 } }),
  enabled: () => project.may('issues', 'see'),
});
const pins = computed(() =>
  (issues.value?.items ?? []).flatMap(({ id, number, place }) =>
    place?.page === page.value ? [{ id, kind: 'issue' as const, number, x: place.x, y: place.y }] : [],
  ),
);

// The sheet on the table
const { source, broken } = useOpenSheet(() => {
  const open = props.version;
  if (open.preparation !== 'ready' || (open.kind !== 'drawing' && open.kind !== 'image')) return null;
  return { versionId: open.id, url: addressOf(downloadVersion, versionParams.value), kind: open.kind };
});
const view = ref<SheetView | null>(null);
const table = ref<InstanceType<typeof SheetTable>>();
const marksTable = ref<InstanceType<typeof MarkupTable>>();
/** What it draws is looked up once it is seen: the picture comes first. */
const sheetKey = computed(() => `${versionId.value}/${page.value}`);
const seen = ref('');
const drawn = useDrawnContent(
  () => (props.version.kind === 'drawing' && seen.value === sheetKey.value ? sheetKey.value : ''),
  async () => {
    const params = { ...versionParams.value, page: String(page.value) };
    const answer = await fetch(addressOf(showVectors, params));
    return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : undefined;
  },
);
watch(
  [containerId, () => query('markup')],
  ([id, markupId]) => related.select(markupId ? { type: 'markup', id: markupId } : { type: 'container', id }),
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

// The model behind it
const plan = usePlanOfSheet(
  () => containerId.value,
  () => page.value,
);
const allPins = computed(() => [...pins.value, ...plan.pins.value]);
function openPin(id: string): void {
  const { projectId } = project;
  const kind = allPins.value.find((pin) => pin.id === id)?.kind;
  void router.push(
    kind === 'viewpoint'
      ? { name: 'scene', params: { projectId }, query: { viewpoint: id } }
      : { name: 'issue', params: { projectId, issueId: id } },
  );
}
function point(at: Point): void {
  if (plan.asksPoint.value) plan.clicked.value = at;
  else if (tool.value === 'model') plan.ask(at, 5 / (view.value?.zoom ?? 1));
  else place.value = at;
}

// Tools
const tools = computed(() =>
  SHEET_TOOLS.filter(({ name, adds }) => (!adds || project.may(adds, 'add')) && (name !== 'model' || plan.link.value)),
);
const tool = ref('look');
const group = ref<SheetTool['group']>('look');
const active = computed(() => SHEET_TOOLS.find(({ name }) => name === tool.value)!);
watch(tool, () => (group.value = active.value.group));
const sketch = computed(() => {
  const unit = (pixels: number): number => pixels / (view.value?.zoom ?? 1);
  return active.value.sketch?.({
    least: () => unit(6),
    words: () => [Math.max(190, unit(190)), Math.max(52, unit(52))],
    stamp: () => placing.stampSize.value ?? [Math.max(190, unit(190)), Math.max(52, unit(52))],
    photo: () => placing.photoSize.value,
  });
});
const mode = computed(() => {
  if (plan.asksPoint.value) return 'point';
  if (tool.value === 'look' || tool.value === 'choose') return tool.value;
  return tool.value === 'issue' || tool.value === 'model' ? 'point' : 'draw';
});
const snap = computed(() => {
  const snapper = active.value.catches || plan.asksPoint.value ? drawn.value?.snapper : undefined;
  return snapper && ((at: Point, reach: number, from: Point | undefined) => snapper.find(...at, reach, from));
});
const measuring = useMeasuring(
  () => sheetKey.value,
  () => sheet.value?.scale ?? '',
);
const mayMark = computed(() => project.may('markup', 'add'));
const surface = ref<HTMLElement>();
const { width: surfaceWidth, height: surfaceHeight } = useElementSize(surface);
const surfaceSize = computed(() => [surfaceWidth.value, surfaceHeight.value] as const);
const newId = (): string => crypto.randomUUID();
/** What is chosen is drawn so; else what is drawn next. */
const restyle = (style: MarkupStyle): unknown =>
  chosen.list.value.length ? chosen.change(() => ({ style })) : (placing.style.value = style);
const scaleShown = computed(() => ({
  metresPerPoint: measuring.scale.metresPerPoint.value,
  calibrated: measuring.scale.isCalibrated.value,
}));

// Markups
const mayChange = (markup: Markup): boolean =>
  project.may('markup', 'add') && (markup.author.id === session.me?.id || project.may('markup', 'change'));
const chosen = useChosenMarkups({ markups, page: () => page.value, mayChange, me: () => session.me?.id });
watch(
  () => query('markup'),
  (id) => id && !chosen.ids.value.includes(id) && (chosen.ids.value = [id]),
  { immediate: true },
);
const toMark = (markup: Markup): Mark => {
  const { id, shape, style, status, draft, number, carriedFrom } = markup;
  const measure = MEASURING_KINDS.has(shape.kind) ? measuring.ofMarkup(markup) : '';
  const text = [measure, markup.text].filter(Boolean).join(' · ');
  const { colour, symbol } = MARKUP_LOOK[status];
  const movable = tool.value === 'choose' && mayChange(markup) && !style.locked && !markup.carriedTo;
  const picture = markup.picture ? addressOf(showMarkupPicture, { ...project.params, markupId: id }) : '';
  const tag = `${markup.tag ?? number} ${symbol}${carriedFrom ? ' ‹' : ''}`;
  const tagShape = shape.kind === 'callout' ? settings.calloutTag : 'flag';
  return { id, shape, style, colour, text, tag, tagShape, draft, movable, picture };
};
const marks = computed(() => chosen.onPage.value.map(toMark));
function choose(chosenIds: string[]): void {
  const ids = chosen.withGroups(chosenIds);
  chosen.ids.value = ids;
  void router.replace({ query: { ...route.query, markup: ids.length === 1 ? ids[0] : undefined } });
}
const placing = usePlacing({
  markups,
  page: () => page.value,
  metresPerPointOf: measuring.scale.metresPerPointOf,
  me: () => session.me ?? undefined,
  sheet: () => ({ code: props.container.code, revision: props.version.revision }),
});
const { pending } = placing;
/** Where the words of what was drawn are written: below its upper left corner. */
const pendingAt = computed(() => {
  if (!pending.value || !view.value) return undefined;
  const [x, y, w, h] = shapeBounds(pending.value);
  const corners = [toWindow(view.value, [x, y]), toWindow(view.value, [x + w, y + h])];
  return [Math.min(...corners.map(([px]) => px)), Math.max(...corners.map(([, py]) => py)) + 8] as const;
});
const photoInput = ref<HTMLInputElement>();
watch(tool, (name) => name === 'photo' && photoInput.value?.click());
async function photoChosen(file: File | undefined): Promise<void> {
  if (!(await placing.sendPhoto(file))) tool.value = 'look';
}
/** What is drawn is taken out of the area that is chosen. */
async function cutHole(shape: MarkupShape): Promise<void> {
  const [area] = chosen.list.value;
  if (shape.kind !== 'area' || area?.shape.kind !== 'area')
    return sayProblem(new Error('Choose one area first, then draw what is not part of it. Nothing was changed.'));
  await chosen.reshape(area.id, { ...area.shape, holes: [...(area.shape.holes ?? []), shape.points] });
}
async function take(shape: MarkupShape): Promise<void> {
  if (tool.value === 'calibrate') {
    await measuring.calibrate(shape);
    tool.value = 'dimension';
  } else if (tool.value === 'region') {
    await measuring.scaleRegion(shape);
    tool.value = 'dimension';
  } else if (tool.value === 'hole') await cutHole(shape);
  else await placing.take(shape);
}
const raisedFrom = ref<Markup | null>(null);
const place = ref<Point | null>(null);
const PICTURE = [960, 600] as const;
/** What it looks like around the place, as near as one is. */
const placePicture = ref<Blob>();
watch(place, async (at) => {
  placePicture.value = undefined;
  if (!at || !source.value) return;
  const zoom = view.value?.zoom ?? 1;
  placePicture.value = await asPng(await drawPlace(source.value, page.value, around(at, zoom, PICTURE), PICTURE));
});
function raise(markup: Markup): void {
  const [x, y, w, h] = shapeBounds(markup.shape);
  raisedFrom.value = markup;
  place.value = [x + w / 2, y + h / 2];
}
function endRaising(): void {
  place.value = raisedFrom.value = null;
  tool.value = 'look';
}

function show(markup: Markup): void {
  table.value?.showBox(shapeBounds(markup.shape));
  chosen.ids.value = [markup.id];
  void router.replace({ query: { ...route.query, page: String(markup.page), markup: markup.id } });
}
watch([() => query('markup'), chosen.onPage, source], ([id, list, opened], [before]) => {
  const markup = list.find((item) => item.id === id);
  if (markup && opened && id !== before && !query('at'))
    setTimeout(() => table.value?.showBox(shapeBounds(markup.shape)), 60);
});

// The whole, the parts, and what stands beside it
const showsPages = ref(false);
/** What is open on each sheet. */
const openOn = computed(() => {
  const counts = new Map<number, { markups: number; issues: number }>();
  const at = (number: number) => counts.get(number) ?? counts.set(number, { markups: 0, issues: 0 }).get(number)!;
  for (const { page: on, status } of markups.list.value) if (OPEN_MARKUP_STATUSES.includes(status)) at(on).markups++;
  for (const { place: lies, status } of issues.value?.items ?? [])
    if (lies?.page && PENDING_ISSUE_STATUSES.includes(status)) at(lies.page).issues++;
  return counts;
});
const beside = useBeside(
  () => props.versions,
  () => Number(query('beside')),
);
const goBeside = (number?: number) =>
  router.replace({ query: { ...route.query, beside: number === undefined ? undefined : String(number) } });
/** The version before the one on the table, else any other. */
function openBeside(): void {
  const others = props.versions.filter(({ id }) => id !== versionId.value);
  const before = others.filter(({ number }) => number < props.version.number).map(({ number }) => number);
  void goBeside(before.length ? Math.max(...before) : others[0]?.number);
}
const layers = ref<SheetLayer[]>([]);
watch(source, async (opened) => void (layers.value = (await opened?.layers()) ?? []));
async function showLayer(id: string, visible: boolean): Promise<void> {
  await source.value!.showLayer(id, visible);
  layers.value = await source.value!.layers();
  await table.value?.redraw();
}
async function print(which: 'this' | 'all' | 'some', withMarkups: boolean): Promise<void> {
  const all = (sheets.value ?? []).map((one) => one.page);
  const pages = which === 'this' ? [page.value] : which === 'all' ? all : await askForPages(all.length);
  if (!pages) return;
  await attempt(() => {
    const marksOn = (number: number): Mark[] =>
      markups.list.value.filter((markup) => markup.page === number).map(toMark);
    return printSheets(
      source.value!,
      pages,
      withMarkups ? (number, size, scale) => marksOnPaper(marksOn(number), size, scale) : undefined,
    );
  });
}
const middle = ref<HTMLElement>();
const { toggle: toggleFullScreen } = useFullscreen(middle);

const { data: recognised } = useQuery({
  key: () => [project.projectId, 'version', 'recognised words', versionId.value, page.value],
  query: () => call(listRecognisedWords, { params: { ...versionParams.value, page: String(page.value) } }),
  enabled: () => sheet.value?.recognition === 'recognised',
});
const texts = computed(() => (sheet.value?.recognition === 'recognised' ? recognised.value : drawn.value?.texts) ?? []);
const search = useWordSearch(
  query('find'),
  () => ({ containerId: containerId.value, page: page.value, texts: texts.value }),
  (box) => table.value?.showBox(box),
);

const did = (what: unknown): true => (void what, true);
useSheetKeys({
  sleeps: () => pending.value !== null,
  withControl: {
    z: (shift) => did(shift ? markups.redo() : markups.undo()),
    y: () => did(markups.redo()),
    c: () => chosen.ids.value.length > 0 && did(chosen.copy()),
    v: () => did(chosen.paste()),
    f: () => (search.open.value = true),
  },
  plain: {
    Escape() {
      tool.value = 'look';
      choose([]);
    },
    Enter: () => marksTable.value?.finish(),
    Delete: () => void chosen.remove(),
    PageDown: () => stepPage(1),
    PageUp: () => stepPage(-1),
    '0': () => table.value?.fit(),
    '9': () => table.value?.fitWidth(),
    r: () => table.value?.turn(),
    '+': () => table.value?.zoomAt(1.4),
    '-': () => table.value?.zoomAt(1 / 1.4),
  },
  nudge([x, y], far) {
    if (!chosen.ids.value.length || tool.value !== 'choose') return false;
    const by = (far ? 10 : 1) / (view.value?.zoom ?? 1);
    return did(chosen.move(chosen.ids.value, x * by, y * by));
  },
  tool: (key) => void (tool.value = tools.value.find((one) => one.key === key)?.name ?? tool.value),
});

const labelOf = (number: number): string =>
  (sheets.value?.length ?? 0) > 1 ? (sheets.value!.find((one) => one.page === number)?.label ?? '') : '';
</script>

<template>
  <section ref="middle" class="middle">
    <slot />
    <SheetHead
      :code="container.code"
      :version="version.number"
      :versions="versions"
      :page="page"
      :sheets="sheets ?? []"
      :scale="version.kind === 'drawing' ? scaleShown : undefined"
      :units="measuring.units.value"
      @version="goVersion"
      @page="goPage"
      @calibrate="tool = 'calibrate'"
      @region="tool = 'region'"
      @beside="beside.version.value ? goBeside() : openBeside()"
      @forget="measuring.scale.forget"
      @units="measuring.units.value = $event"
      @find="search.open.value = !search.open.value"
      @pages="showsPages = !showsPages"
    >
      <PlanMenu
        v-if="version.kind === 'drawing'"
        :link="plan.link.value"
        :may-link="project.may('scene', 'add')"
        @link="plan.linking.value = true"
        @unlink="plan.unlink"
      />
      <RouterLink
        v-if="version.kind === 'drawing' && versions.length > 1"
        :to="{
          name: 'sheet-changes',
          params: { ...project.params, containerId },
          query: { page, after: version.number > 1 ? version.number : undefined },
        }"
        >Changes</RouterLink
      >
      <RouterLink :to="{ name: 'sheet-register', params: project.params }">Sheet register</RouterLink>
      <RouterLink :to="{ name: 'container', params: { projectId: project.projectId, containerId } }"
        >Versions</RouterLink
      >
    </SheetHead>
    <div class="canvas-box">
      <div v-if="source" class="surfaces" :class="{ two: beside.version.value }">
        <div ref="surface" class="surface">
          <SheetTable
            ref="table"
            v-model:view="view"
            :source="source"
            :page="page"
            :pans="mode === 'look'"
            @seen="seen = sheetKey"
          >
            <template #default="{ view: shownView, window, size }">
              <MiniMap
                :source="source"
                :page="page"
                :size="size"
                :view="shownView"
                :window="window"
                @go="table?.centreOn($event)"
              />
              <MarkupTable
                ref="marksTable"
                :marks="marks"
                :pins="allPins"
                :view="shownView"
                :window="window"
                :mode="mode"
                :sketch="sketch"
                :chosen="chosen.ids.value"
                :snap="snap"
                :pending="pending"
                :found="search.place.value"
                :say-measure="measuring.ofDrawn"
                @drawn="take"
                @choose="choose"
                @reshaped="chosen.reshape"
                @moved="chosen.move"
                @turned="(angle) => chosen.arrange((shapes) => turned(shapes, angle))"
                @point="point"
                @pin="openPin"
              />
              <PlanOverlay v-if="plan.overlay.value" v-bind="plan.overlay.value" :view="shownView" />
            </template>
          </SheetTable>
          <MarkupEditor
            v-if="pending && pendingAt"
            :shape="pending"
            :saving="placing.saving.value"
            :at="pendingAt"
            :window="surfaceSize"
            @save="placing.save"
            @close="pending = null"
          />
          <PlanLinkPanel
            v-if="plan.linking.value"
            :container-id="containerId"
            :page="page"
            :segments="drawn?.snapper.segments"
            :metres-per-point="measuring.scale.metresPerPoint.value"
            :clicked="plan.clicked.value"
            :link="plan.link.value"
            @asks="plan.asksPoint.value = $event"
            @overlay="plan.overlay.value = $event"
            @linked="plan.linked"
            @close="plan.linking.value = false"
          />
          <PlanElementPanel
            v-else-if="plan.isAsked.value"
            :model="plan.model.value"
            :row="plan.row.value"
            :loading="plan.loading.value"
            :elevation="plan.link.value!.elevation"
            @close="plan.forget"
          />
          <SheetPages
            v-if="showsPages && (sheets?.length ?? 0) > 1"
            :source="source"
            :sheets="sheets!"
            :page="page"
            :open="openOn"
            @page="goPage"
            @close="showsPages = false"
          />
          <SheetWords
            v-if="search.open.value"
            v-model="search.words.value"
            :found="search.found.value"
            :at="search.at.value"
            :others="search.others.value"
            :ready="drawn !== undefined"
            :recognition="sheet?.recognition ?? 'none'"
            @step="search.step"
            @show="search.showFound"
            @page="goPage"
            @close="search.open.value = false"
          />
        </div>
        <SheetBeside
          v-if="beside.version.value"
          v-model:view="view"
          :source="beside.source.value"
          :broken="beside.broken.value"
          :page="page"
          :version="beside.version.value.number"
          :versions="versions"
          @version="goBeside"
          @close="goBeside()"
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
        :marks="mayMark"
        :sheets="sheets?.length ?? 1"
        :layers="layers"
        :may-undo="markups.mayUndo.value"
        :may-redo="markups.mayRedo.value"
        @zoom="table?.zoomAt($event)"
        @fit="table?.fit()"
        @width="table?.fitWidth()"
        @turn="table?.turn()"
        @full-screen="toggleFullScreen"
        @print="print"
        @layer="showLayer"
        @undo="markups.undo"
        @redo="markups.redo"
      >
        <template #above>
          <p v-if="tool === 'photo' && placing.photoHint.value" role="status" aria-label="Photo" class="photo-hint">
            {{ placing.photoHint.value }}
            <button class="button-link" @click="photoInput?.click()">Another photo</button>
          </p>
          <StampStrip
            v-if="tool === 'stamp'"
            v-model="placing.stampId.value"
            :stamps="placing.stamps.value"
            :picture-of="(stamp) => addressOf(showStampPicture, { ...project.params, stampId: stamp.id })"
          />
          <StyleBar
            v-if="mayMark && (group !== 'look' || chosen.list.value.some(mayChange))"
            :look="chosen.list.value.length ? chosen.list.value[0]!.style : placing.style.value"
            @change="restyle"
          />
        </template>
        <template #chosen>
          <ArrangeMenu
            v-if="chosen.list.value.some(mayChange)"
            :several="chosen.list.value.length > 1"
            :locked="chosen.list.value.every(({ style }) => style.locked)"
            :grouped="chosen.list.value.some(({ style }) => style.group)"
            @align="(edge) => chosen.arrange((shapes) => aligned(shapes, edge))"
            @spread="(axis) => chosen.arrange((shapes) => spread(shapes, axis))"
            @turn="chosen.arrange(quarterTurned)"
            @order="chosen.reorder"
            @group="(together) => chosen.restyle({ group: together ? newId() : undefined })"
            @lock="(locked) => chosen.restyle({ locked: locked || undefined })"
          />
        </template>
      </SheetTools>
    </div>
  </section>
  <SideList class="marks" title="Markups" :chosen="counted(markups.list.value.length, 'markup')">
    <MarkupPanel
      :version-id="version.id"
      :is-drawing="version.kind === 'drawing'"
      :markups="markups"
      :chosen="chosen.ids.value"
      :measure-of="measuring.ofMarkup"
      :say-total="measuring.ofTotal"
      :sheet-of="labelOf"
      :may-rewrite="mayChange"
      @show="show"
      @raise="raise"
      @version="goVersion"
    />
  </SideList>
  <input
    ref="photoInput"
    type="file"
    accept="image/*"
    capture="environment"
    hidden
    aria-label="Photo"
    @cancel="tool = 'look'"
    @change="photoChosen(($event.target as HTMLInputElement).files?.[0])"
  />
  <RaiseIssueDialog
    v-if="place && placePicture && session.me"
    :place="{ versionId: version.id, page, x: place[0], y: place[1], zoom: view?.zoom ?? null }"
    :taken="placePicture"
    :markup="raisedFrom ?? undefined"
    @close="endRaising"
  />
</template>

<style scoped>
.middle {
  display: flex;
  flex-direction: column;
  min-width: 0;
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
.surfaces {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
.surfaces.two {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.surface {
  position: relative;
  min-height: 0;
}
.photo-hint {
  margin: 0;
  padding: 4px 12px;
  border-top: 1px solid var(--hairline);
}
.marks {
  width: 264px;
  border-left: 1px solid var(--hairline);
  border-right: 0;
}
@media (max-width: 700px) {
  .surfaces.two {
    grid-template: minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr);
  }
  .marks {
    width: auto;
    border-left: 0;
  }
}
</style>
