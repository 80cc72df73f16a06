<script setup lang="ts">
import { listContainers } from '@kindred/contract/register/register';
import { addViewpoint, showViewpoint, type ViewpointState } from '@kindred/contract/scene/scene';
import { Camera, Eye, EyeOff, Flag, Focus, Home, Minimize2, SquareSplitVertical } from '@lucide/vue';
import { useQuery, useQueryCache } from '@pinia/colada';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import { useDebounceFn, useElementSize, useEventListener } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import { usePinsInScene } from '../plan/pins-in-scene.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import ToolStrip from '../platform/ToolStrip.vue';
import { ApiProblem, call } from '../platform/api.ts';
import { isTyping } from '../platform/keyboard.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { answered, attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import NewerOffer from '../register/NewerOffer.vue';
import { useRelated } from '../things/related.ts';
import ElementTree from './ElementTree.vue';
import ModelList from './ModelList.vue';
import PropertyPanel from './PropertyPanel.vue';
import ScenePins from './ScenePins.vue';
import SectionBar from './SectionBar.vue';
import { useElementState } from './element-state.ts';
import type { LoadedModel } from './models.ts';
import { useNewerVersions } from '../register/newer-versions.ts';
import { useOpenModels } from './open-models.ts';
import { SceneEngine, type ElementRef, type SceneStats, type Section } from './scene-engine.ts';

const project = useProject();
const related = useRelated();
const router = useRouter();
const cache = useQueryCache();
const { query, set } = useRouteQuery();

const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLElement>();
const { width, height } = useElementSize(box);
const engine = shallowRef<SceneEngine>();
const pictures = ref(0);
const stats = ref<SceneStats>({ calls: 0, triangles: 0, elements: 0 });

const { data: offered } = useQuery({
  key: () => [project.projectId, 'container', 'models'],
  query: () => call(listContainers, { params: project.params, query: { kind: 'model', limit: 200 } }),
});
const ready = computed(() => (offered.value?.items ?? []).filter(({ preparation }) => preparation === 'ready'));
const wanted = computed(() => query('models').split(',').filter(Boolean));
function titleOf(versionId: string): string {
  const container = ready.value.find((item) => item.versionId === versionId);
  return container?.title || container?.code || 'Model';
}
const { models, loading, problem, load } = useOpenModels(engine, () => project.projectId, titleOf);
/** The models that are on the screen: the tree is made after them, so that nobody waits for it. */
const drawn = shallowRef<LoadedModel[]>([]);
watch(models, (list) => {
  canvas.value?.setAttribute('data-models', String(list.length));
  requestAnimationFrame(() => setTimeout(() => (drawn.value = models.value)));
});
const open = computed(() => [...wanted.value, ...models.value.map(({ versionId }) => versionId)]);
const openVersions = (ids: string[]): Promise<void> =>
  set({ models: ids.join(',') || undefined, viewpoint: undefined });
const { newer, follow: followNewer, takeAll: takeNewer } = useNewerVersions(wanted, (ids) => void openVersions(ids));

function toggle(versionId: string): void {
  const { value } = wanted;
  void openVersions(value.includes(versionId) ? value.filter((id) => id !== versionId) : [...value, versionId]);
}

onMounted(() => {
  try {
    engine.value = new SceneEngine(canvas.value!);
  } catch (error) {
    // three.js says so in these words; anything else is no matter of the browser.
    if (!/WebGL/.test((error as Error).message)) throw error;
    problem.value =
      'This browser cannot draw in three dimensions (WebGL is off). The rest of the application works without it.';
    return;
  }
  engine.value.onDrawn = () => {
    stats.value = engine.value!.stats();
    pictures.value++;
  };
  engine.value.onMoved = () => void writeView();
  void follow();
});
onBeforeUnmount(() => engine.value?.dispose());
watch([width, height, engine], () => engine.value?.resize(width.value, height.value));

const everything = (): ElementRef[] =>
  models.value.flatMap(({ versionId, table }) => table.globalId.map((_, row) => ({ model: versionId, row })));
const elements = useElementState(engine, everything);
const { selection, hidden, isolated, select } = elements;

/** The viewpoint of the address; null, with a sentence, where there is none for this person. */
async function viewpointOf(viewpointId: string) {
  try {
    return await call(showViewpoint, { params: { ...project.params, viewpointId } });
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    problem.value =
      error.problem.status === 404
        ? 'This viewpoint does not exist, or shows models that are not shared with you.'
        : error.problem.detail;
    return null;
  }
}
/** Models, then the view, as the address asks for them. */
let asked = 0;
let shownViewpoint = '';
async function follow(): Promise<void> {
  const mine = ++asked;
  const viewpointId = query('viewpoint');
  const viewpoint = viewpointId ? await viewpointOf(viewpointId) : null;
  const first = models.value.length === 0;
  await load(wanted.value.length ? wanted.value : (viewpoint?.versionIds ?? []));
  if (mine !== asked || !engine.value) return;
  if (viewpoint && shownViewpoint !== viewpointId) {
    shownViewpoint = viewpointId;
    apply(viewpoint.state, !first);
    related.select({ type: 'viewpoint', id: viewpointId });
  } else if (first && models.value.length) beginView(engine.value);
  showWanted();
}
/** The element of the address is chosen and looked at, once. */
let shownElement = '';
function showWanted(): void {
  const id = query('element');
  if (!id || id === shownElement) return;
  const refs = models.value.flatMap(({ versionId, table }) => {
    const row = table.globalId.indexOf(id);
    return row < 0 ? [] : [{ model: versionId, row }];
  });
  if (!refs.length) return;
  shownElement = id;
  const cutAt = Number(query('cut'));
  // What stands over it would hide it.
  if (query('cut') && Number.isFinite(cutAt)) section.value = { axis: 'z', at: cutAt, flipped: false };
  select(refs);
  engine.value?.showElement(refs);
}
const pins = usePinsInScene(() => models.value.map(({ versionId }) => versionId));
type Triple = [number, number, number];
function beginView(shown: SceneEngine): void {
  const numbers = query('camera').split(',').map(Number);
  if (numbers.length !== 6 || !numbers.every(Number.isFinite)) return shown.home(false);
  const camera = { position: numbers.slice(0, 3) as Triple, target: numbers.slice(3) as Triple, fieldOfView: 50 };
  section.value = shown.setView({ camera, sections: [] }, false);
}
watch([wanted, () => query('viewpoint')], () => engine.value && void follow());
/** Written after one went elsewhere it would call them back. */
let leaves = false;
onBeforeRouteLeave(() => void (leaves = true));
const writeView = useDebounceFn(() => {
  if (leaves || !models.value.length || !engine.value) return;
  const { position, target } = engine.value.view().camera;
  const camera = [...position, ...target].map((value) => value.toFixed(2)).join(',');
  // What was ticked stands in the address already, though it may still be opening.
  const ids = query('models') || models.value.map(({ versionId }) => versionId).join(',');
  if (camera !== query('camera')) void set({ models: ids, camera });
}, 400);

let pressed: { x: number; y: number } | undefined;
function onDown({ clientX: x, clientY: y }: PointerEvent): void {
  pressed = { x, y };
}
function onUp(event: PointerEvent): void {
  if (!pressed || Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > 4 || event.button !== 0) return;
  const { left, top } = canvas.value!.getBoundingClientRect();
  const ref = engine.value?.pick(event.clientX - left, event.clientY - top);
  select(ref ? [ref] : [], event.ctrlKey || event.shiftKey);
}

const section = ref<Section | null>(null);
const range = computed((): [number, number] =>
  section.value && models.value.length ? engine.value!.rangeOf(section.value.axis) : [0, 1],
);
function cut(axis: Section['axis']): void {
  if (!engine.value) return;
  const [low, high] = engine.value.rangeOf(axis);
  section.value = { axis, at: (low + high) / 2, flipped: false };
}
watch(section, (value) => engine.value?.setSection(value));

function idsOf(refs: Iterable<ElementRef>): string[] {
  const tables = new Map(models.value.map(({ versionId, table }) => [versionId, table]));
  return [...refs].flatMap(({ model, row }) => tables.get(model)?.globalId[row] ?? []);
}
function current(): ViewpointState {
  return {
    ...engine.value!.view(),
    hidden: idsOf(hidden.values()),
    isolated: isolated.value && idsOf(isolated.value.values()),
    selection: idsOf(selection.value),
  };
}
function apply(state: ViewpointState, moving: boolean): void {
  const byId = new Map(
    models.value.flatMap(({ versionId, table }) =>
      table.globalId.map((id, row): [string, ElementRef] => [id, { model: versionId, row }]),
    ),
  );
  const refs = (ids: string[]): ElementRef[] => ids.flatMap((id) => byId.get(id) ?? []);
  elements.apply({
    hidden: refs(state.hidden),
    isolated: state.isolated && refs(state.isolated),
    selection: refs(state.selection),
  });
  section.value = engine.value!.setView(state, moving);
}
async function saveViewpoint(name: string): Promise<string> {
  const saved = await call(addViewpoint, {
    params: project.params,
    body: {
      name: name.slice(0, 120),
      state: current(),
      versionIds: models.value.map(({ versionId }) => versionId),
      picture: engine.value!.picture(),
    },
  });
  await cache.invalidateQueries({ key: [project.projectId, 'viewpoint'] });
  return saved.id;
}
async function askAndSave(): Promise<void> {
  const answer = await answered(
    ElMessageBox.prompt('Name of the viewpoint', 'Save viewpoint', {
      confirmButtonText: 'Save viewpoint',
      cancelButtonText: 'Cancel',
      inputPattern: /\S/,
      inputErrorMessage: 'It needs a name.',
    }),
  );
  if (!answer) return;
  if (await attempt(() => saveViewpoint(answer.value))) sayDone('Viewpoint saved. It stands under Viewpoints.');
}
const picture = ref('');
const raising = ref(false);
function raise(): void {
  picture.value = engine.value!.picture();
  raising.value = true;
}

const chosenModel = computed(() => models.value.find(({ versionId }) => versionId === selection.value[0]?.model));
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.ctrlKey || event.metaKey || isTyping(event.target)) return;
  const acts: Record<string, () => void> = {
    h: () => engine.value?.home(),
    e: () => engine.value?.showElement(selection.value),
    x: () => elements.hide(selection.value),
    i: () => elements.isolate(selection.value),
    a: elements.showAll,
    Escape: () => select([]),
  };
  acts[event.key]?.();
});
</script>

<template>
  <div class="scene">
    <h1 class="said-only">Scene</h1>
    <NewerOffer
      v-if="newer.length"
      class="newer"
      :text="`A newer version is there: ${newer.map(({ title, current: now }) => `${title}, version ${now.number}`).join(' · ')}`"
      @take="takeNewer"
    >
      <label class="row"><input v-model="followNewer" type="checkbox" /> always at once</label>
    </NewerOffer>
    <SideList title="Models and elements" :chosen="`${models.length} open`">
      <div class="left">
        <ModelList :models="ready" :open="open" @toggle="toggle" />
        <ElementTree
          v-if="models.length"
          :models="drawn"
          :title-of="titleOf"
          :selection="selection"
          :is-hidden="elements.isHidden"
          @select="select"
          @toggle="elements.toggle"
        />
      </div>
    </SideList>
    <section class="middle">
      <div ref="box" class="stage">
        <canvas ref="canvas" aria-label="Scene" @pointerdown="onDown" @pointerup="onUp" @contextmenu.prevent />
        <ScenePins
          v-if="engine && pins.length"
          :pins="pins"
          :to-screen="(at) => engine!.toScreen(at)"
          :drawn="pictures"
          @open="router.push({ name: 'issue', params: { projectId: project.projectId, issueId: $event } })"
        />
        <EmptyPlace v-if="!models.length && !loading && !problem" title="Choose models from the list" class="over"
          >They are drawn together, each in its own place.</EmptyPlace
        >
        <p v-if="loading" class="over plain">{{ loading }}</p>
        <EmptyPlace v-if="problem" :title="problem" class="over"
          ><button class="button-link" @click="problem = ''">Go on</button></EmptyPlace
        >
        <SectionBar v-model="section" :range="range" />
      </div>
      <ToolStrip label="Tools of the scene">
        <button title="See everything (H)" @click="engine?.home()"><Home :size="16" :stroke-width="1.5" /> Home</button>
        <el-dropdown trigger="click" @command="engine?.lookFrom($event)"
          ><button><Focus :size="16" :stroke-width="1.5" /> Look from</button
          ><template #dropdown
            ><el-dropdown-menu
              ><el-dropdown-item
                v-for="from in ['top', 'south', 'east', 'north', 'west']"
                :key="from"
                :command="from"
                >{{ from }}</el-dropdown-item
              ></el-dropdown-menu
            ></template
          ></el-dropdown
        >
        <i />
        <el-dropdown trigger="click" @command="cut($event)"
          ><button :class="{ active: section }"><SquareSplitVertical :size="16" :stroke-width="1.5" /> Section</button
          ><template #dropdown
            ><el-dropdown-menu
              ><el-dropdown-item command="z">level</el-dropdown-item
              ><el-dropdown-item command="x">across</el-dropdown-item
              ><el-dropdown-item command="y">along</el-dropdown-item></el-dropdown-menu
            ></template
          ></el-dropdown
        >
        <i />
        <button title="Look closer (E)" :disabled="!selection.length" @click="engine?.showElement(selection)">
          <Minimize2 :size="16" :stroke-width="1.5" /> Closer
        </button>
        <button title="Hide what is selected (X)" :disabled="!selection.length" @click="elements.hide(selection)">
          <EyeOff :size="16" :stroke-width="1.5" /> Hide
        </button>
        <button title="Only what is selected (I)" :disabled="!selection.length" @click="elements.isolate(selection)">
          <Focus :size="16" :stroke-width="1.5" /> Isolate
        </button>
        <button title="Show all (A)" :disabled="!hidden.size && !isolated" @click="elements.showAll">
          <Eye :size="16" :stroke-width="1.5" /> Show all
        </button>
        <i />
        <button v-if="project.may('scene', 'add')" :disabled="!models.length" @click="askAndSave">
          <Camera :size="16" :stroke-width="1.5" /> Save viewpoint
        </button>
        <button v-if="project.may('issues', 'add')" :disabled="!models.length" @click="raise">
          <Flag :size="16" :stroke-width="1.5" /> Raise issue
        </button>
        <span class="mono quiet stats" data-test="scene-stats"
          >{{ stats.elements }} elements · {{ stats.triangles }} triangles · {{ stats.calls }} draws</span
        >
      </ToolStrip>
    </section>
    <PropertyPanel
      v-if="selection[0] && chosenModel"
      class="beside"
      :project-id="project.projectId"
      :element="selection[0]"
      :model="chosenModel"
      :others="selection.length - 1"
    />
    <RaiseIssueDialog v-if="raising" :picture="picture" :prepare-viewpoint="saveViewpoint" @close="raising = false" />
  </div>
</template>

<style scoped>
.scene {
  height: 100%;
  display: grid;
  grid-template-columns: 216px minmax(0, 1fr) auto;
  grid-template-rows: auto minmax(0, 1fr);
}
.scene > :not(h1) {
  grid-row: 2;
}
.scene > .newer {
  grid-area: 1 / 1 / 2 / -1;
}
.left {
  height: 100%;
  padding: 12px 0 0 12px;
  display: flex;
  flex-direction: column;
}
.middle {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.stage {
  position: relative;
  flex: 1;
  min-height: 0;
  background: #eeebe2;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  display: block;
  touch-action: none;
}
.over {
  position: absolute;
  left: 50%;
  top: 38%;
  transform: translate(-50%, -50%);
  background: var(--paper);
  min-width: 300px;
}
.over.plain {
  text-align: center;
  padding: 10px;
}
.stats {
  flex: 1 1 0;
  min-width: 0;
  text-align: right;
  font-size: 10.5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.beside {
  width: 250px;
  border-left: 1px solid var(--hairline);
}
@media (max-width: 700px) {
  .scene {
    grid-template: auto auto minmax(0, 1fr) auto / minmax(0, 1fr);
  }
  .scene > :not(h1),
  .scene > .newer {
    grid-area: auto;
  }
  .scene > .middle {
    grid-row: 3;
  }
  .left {
    min-height: 60vh;
  }
  .beside {
    width: auto;
    max-height: 40vh;
    border-left: 0;
    border-top: 1px solid var(--hairline);
  }
}
</style>
