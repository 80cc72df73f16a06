<script setup lang="ts">
import { listContainers, listCurrentVersions, type Container } from '@kindred/contract/register/register';
import { addViewpoint, showViewpoint, type ViewpointState } from '@kindred/contract/scene/scene';
import { Camera, Eye, EyeOff, Flag, Focus, Home, Minimize2, SquareSplitVertical } from '@lucide/vue';
import { useQuery, useQueryCache } from '@pinia/colada';
import { refDebounced, useDebounceFn, useElementSize, useEventListener, useLocalStorage } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed, onBeforeUnmount, onMounted, reactive, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useKin } from '../frame/kin.ts';
import RaiseIssue from '../issues/RaiseIssue.vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { useLength } from '../platform/length.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import NewerOffer from '../register/NewerOffer.vue';
import { elementsOf, elementTree, loadModel, type LoadedModel, type TreeNode } from './models.ts';
import PropertyPanel from './PropertyPanel.vue';
import { SceneEngine, type ElementRef, type SceneStats, type Section } from './scene-engine.ts';

const route = useRoute();
const router = useRouter();
const project = useProject();
const length = useLength();
const kin = useKin();
const cache = useQueryCache();
const query = (name: string): string => (typeof route.query[name] === 'string' ? route.query[name] : '');

const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLElement>();
const { width, height } = useElementSize(box);
const engine = shallowRef<SceneEngine>();
const models = shallowRef<LoadedModel[]>([]);
/** The models that are on the screen: the tree is made after them, so that nobody waits for it. */
const drawn = shallowRef<LoadedModel[]>([]);
watch(models, () => requestAnimationFrame(() => setTimeout(() => (drawn.value = models.value))));
const loading = ref('');
const problem = ref('');
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
/** Asked anew whenever something in the register changes: a newer version is offered, or taken at once by whoever wants that. */
const { data: currentVersions } = useQuery({
  key: () => [project.projectId, 'container', 'current', query('models')],
  query: () => call(listCurrentVersions, { params: project.params, query: { versionIds: query('models') } }),
  enabled: () => wanted.value.length > 0,
});
const newer = computed(() =>
  (currentVersions.value ?? []).filter(
    ({ versionId, current: now }) => wanted.value.includes(versionId) && now.versionId !== versionId,
  ),
);
const followNewer = useLocalStorage('follow-newer-versions', false);
function takeNewer(): void {
  const next = new Map(newer.value.map(({ versionId, current: now }) => [versionId, now.versionId]));
  const ids = wanted.value.map((id) => next.get(id) ?? id);
  void router.replace({ query: { ...route.query, models: ids.join(','), viewpoint: undefined } });
}
let opened = false;
watch(newer, (list) => {
  // What an address names is shown as it was; only what arrives afterwards is followed.
  if (opened && followNewer.value && list.length) takeNewer();
  opened = true;
});

function toggle(container: Container): void {
  const ids = wanted.value.includes(container.versionId)
    ? wanted.value.filter((id) => id !== container.versionId)
    : [...wanted.value, container.versionId];
  void router.replace({ query: { ...route.query, models: ids.join(',') || undefined, viewpoint: undefined } });
}

onMounted(() => {
  try {
    engine.value = new SceneEngine(canvas.value!);
  } catch {
    problem.value =
      'This browser cannot draw in three dimensions (WebGL is off). The rest of the application works without it.';
    return;
  }
  engine.value.onDrawn = () => void (stats.value = engine.value!.stats());
  engine.value.onMoved = () => void writeView();
  void follow();
});
onBeforeUnmount(() => engine.value?.dispose());
watch([width, height, engine], () => engine.value?.resize(width.value, height.value));

/** Models, then the view, as the address asks for them. */
let turn = 0;
async function follow(): Promise<void> {
  const mine = ++turn;
  const viewpointId = query('viewpoint');
  const state = viewpointId
    ? await call(showViewpoint, { params: { ...project.params, viewpointId } }).catch(() => null)
    : null;
  if (viewpointId && !state)
    problem.value = 'This viewpoint does not exist, or shows models that are not shared with you.';
  const ids = wanted.value.length ? wanted.value : (state?.versionIds ?? []);
  const first = models.value.length === 0;
  await load(ids);
  if (mine !== turn || !engine.value) return;
  if (state && shownViewpoint !== viewpointId) {
    shownViewpoint = viewpointId;
    apply(state.state, !first);
    kin.select({ type: 'viewpoint', id: viewpointId });
    return;
  }
  if (first && models.value.length) {
    const camera = query('camera').split(',').map(Number);
    if (camera.length === 6 && camera.every(Number.isFinite))
      apply(
        {
          camera: { position: camera.slice(0, 3) as Triple, target: camera.slice(3) as Triple, fieldOfView: 50 },
          sections: [],
          hidden: [],
          isolated: null,
          selection: [],
        },
        false,
      );
    else engine.value.home(false);
  }
}
type Triple = [number, number, number];
let shownViewpoint = '';
/** One load after the other: two answers for the same model would draw it twice. */
let loads = Promise.resolve();
function load(ids: string[]): Promise<void> {
  loads = loads.then(() => loadNow([...new Set(ids)]));
  return loads;
}
async function loadNow(ids: string[]): Promise<void> {
  const first = models.value.length === 0;
  for (const model of models.value) if (!ids.includes(model.versionId)) engine.value?.removeModel(model.versionId);
  models.value = models.value.filter(({ versionId }) => ids.includes(versionId));
  for (const id of ids) {
    if (models.value.some(({ versionId }) => versionId === id)) continue;
    loading.value = `Opening ${titleOf(id)} …`;
    try {
      const model = loadModel(project.projectId, id);
      model.table.catch(() => undefined);
      engine.value?.addModel(id, await model.pack);
      if (first && id === ids[0]) {
        engine.value?.home(false);
        engine.value?.draw();
      }
      models.value = [...models.value, { versionId: id, table: await model.table }];
    } catch (error) {
      problem.value = (error as Error).message;
    }
  }
  loading.value = '';
  canvas.value?.setAttribute('data-models', String(models.value.length));
}
watch([wanted, () => query('viewpoint')], () => engine.value && void follow());
const writeView = useDebounceFn(() => {
  if (!models.value.length || !engine.value) return;
  const { position, target } = engine.value.view().camera;
  const camera = [...position, ...target].map((value) => value.toFixed(2)).join(',');
  if (camera !== query('camera'))
    void router.replace({
      // What was ticked stands in the address already, though it may still be opening.
      query: {
        ...route.query,
        models: query('models') || models.value.map(({ versionId }) => versionId).join(','),
        camera,
      },
    });
}, 400);

/** Elements: selection and visibility, each kept as “version#row”. */
const selection = ref<ElementRef[]>([]);
const hidden = reactive(new Set<string>());
const isolated = shallowRef<Set<string> | null>(null);
const keyOf = ({ model, row }: ElementRef): string => `${model}#${row}`;
const refOf = (key: string): ElementRef => ({ model: key.split('#')[0]!, row: Number(key.split('#')[1]) });
const everything = (): ElementRef[] =>
  models.value.flatMap(({ versionId, table }) => table.globalId.map((_, row) => ({ model: versionId, row })));

function select(refs: ElementRef[], add = false): void {
  const next = new Map((add ? selection.value : []).map((ref) => [keyOf(ref), ref]));
  for (const ref of refs) if (!next.delete(keyOf(ref)) || !add) next.set(keyOf(ref), ref);
  for (const ref of selection.value) if (!next.has(keyOf(ref))) engine.value?.setSelected(ref, false);
  for (const ref of next.values()) engine.value?.setSelected(ref, true);
  selection.value = [...next.values()];
}
function showAsWanted(refs: Iterable<ElementRef>): void {
  for (const ref of refs) {
    const key = keyOf(ref);
    engine.value?.setVisible(ref, !hidden.has(key) && (isolated.value?.has(key) ?? true));
  }
}
function hide(refs: ElementRef[]): void {
  for (const ref of refs) hidden.add(keyOf(ref));
  showAsWanted(refs);
  select([]);
}
function isolate(refs: ElementRef[]): void {
  isolated.value = new Set(refs.map(keyOf));
  showAsWanted(everything());
}
function showAll(): void {
  hidden.clear();
  isolated.value = null;
  showAsWanted(everything());
}
function toggleNode(node: TreeNode): void {
  const refs = elementsOf(node);
  const anyShown = refs.some((ref) => !hidden.has(keyOf(ref)));
  for (const ref of refs) anyShown ? hidden.add(keyOf(ref)) : hidden.delete(keyOf(ref));
  showAsWanted(refs);
}
const nodeHidden = (node: TreeNode): boolean =>
  node.row !== undefined
    ? hidden.has(keyOf({ model: node.versionId, row: node.row }))
    : (node.children ?? []).every(nodeHidden);

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

/** Section. */
const section = ref<Section | null>(null);
const range = computed(() =>
  section.value && models.value.length ? engine.value!.rangeOf(section.value.axis) : [0, 1],
);
function cut(axis: Section['axis'] | null): void {
  if (!axis || !engine.value) section.value = null;
  else {
    const [low, high] = engine.value.rangeOf(axis);
    section.value = { axis, at: (low + high) / 2, flipped: false };
  }
}
watch(section, (value) => engine.value?.setSection(value), { deep: true });

/** Viewpoints. */
function idsOf(keys: Iterable<string>): string[] {
  const tables = new Map(models.value.map(({ versionId, table }) => [versionId, table]));
  return [...keys].map(refOf).flatMap(({ model, row }) => tables.get(model)?.globalId[row] ?? []);
}
function current(): ViewpointState {
  return {
    ...engine.value!.view(),
    hidden: idsOf(hidden),
    isolated: isolated.value ? idsOf(isolated.value) : null,
    selection: idsOf(selection.value.map(keyOf)),
  };
}
function apply(state: ViewpointState, moving: boolean): void {
  const byId = new Map(
    models.value.flatMap(({ versionId, table }) =>
      table.globalId.map((id, row): [string, ElementRef] => [id, { model: versionId, row }]),
    ),
  );
  const refs = (ids: string[]): ElementRef[] => ids.flatMap((id) => byId.get(id) ?? []);
  hidden.clear();
  for (const ref of refs(state.hidden)) hidden.add(keyOf(ref));
  isolated.value = state.isolated ? new Set(refs(state.isolated).map(keyOf)) : null;
  showAsWanted(everything());
  select(refs(state.selection));
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
  const answer = await ElMessageBox.prompt('Name of the viewpoint', 'Save viewpoint', {
    confirmButtonText: 'Save',
    cancelButtonText: 'Leave it',
    inputPattern: /\S/,
    inputErrorMessage: 'It needs a name.',
  }).catch(() => null);
  if (!answer) return;
  if (await attempt(() => saveViewpoint(answer.value))) sayDone('Saved. It stands under Viewpoints.');
}
const picture = ref('');
const raising = ref(false);
function raise(): void {
  picture.value = engine.value!.picture();
  raising.value = true;
}

/** Element tree. */
const typed = ref('');
const words = refDebounced(typed, 200);
const tree = computed(() => drawn.value.map((model) => elementTree(model, titleOf(model.versionId), words.value)));
const listBox = ref<HTMLElement>();
const { height: listHeight } = useElementSize(listBox);
const onNode = (node: unknown, _inner: unknown, event: MouseEvent): void => {
  const refs = elementsOf(node as TreeNode);
  if ((node as TreeNode).row !== undefined) select(refs, event.ctrlKey || event.shiftKey);
};
const chosenModel = computed(() => models.value.find(({ versionId }) => versionId === selection.value[0]?.model));
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.ctrlKey || event.metaKey || /^(?:INPUT|TEXTAREA)$/.test((event.target as HTMLElement).tagName)) return;
  const acts: Record<string, () => void> = {
    h: () => engine.value?.home(),
    e: () => engine.value?.showElement(selection.value),
    x: () => hide(selection.value),
    i: () => isolate(selection.value),
    a: showAll,
    Escape: () => select([]),
  };
  acts[event.key]?.();
});
</script>

<template>
  <div class="scene">
    <NewerOffer
      v-if="newer.length"
      class="newer"
      :text="`A newer version is there: ${newer.map(({ title, current: now }) => `${title}, version ${now.number}`).join(' · ')}`"
      @take="takeNewer"
    >
      <label class="row"><input v-model="followNewer" type="checkbox" /> always at once</label>
    </NewerOffer>
    <aside class="left">
      <h2>Models</h2>
      <label v-for="container in ready" :key="container.id" class="model">
        <input
          type="checkbox"
          :checked="
            wanted.includes(container.versionId) || models.some(({ versionId }) => versionId === container.versionId)
          "
          @change="toggle(container)"
        />
        <span>{{ container.title || container.code }}</span> <span class="mono quiet">{{ container.revision }}</span>
      </label>
      <template v-if="models.length">
        <h2 style="margin-top: 12px">Elements</h2>
        <el-input
          v-model="typed"
          size="small"
          placeholder="Name, class, type or GlobalId"
          clearable
          aria-label="Search elements"
        />
        <div ref="listBox" class="tree">
          <el-tree-v2
            :data="tree"
            :props="{ value: 'key', label: 'label', children: 'children' }"
            :height="listHeight"
            :item-size="24"
            :indent="12"
            :default-expanded-keys="tree.map(({ key }) => key)"
            @node-click="onNode"
          >
            <template #default="{ data: node }">
              <span
                class="node"
                :class="{
                  gone: nodeHidden(node),
                  on:
                    node.row !== undefined &&
                    selection.some(({ model, row }) => model === node.versionId && row === node.row),
                }"
              >
                <span class="label" :title="node.label">{{ node.label }}</span>
                <small v-if="node.children" class="mono quiet">{{ node.count }}</small>
                <button :aria-label="`Show or hide ${node.label}`" @click.stop="toggleNode(node)">
                  <component :is="nodeHidden(node) ? EyeOff : Eye" :size="13" :stroke-width="1.5" />
                </button>
              </span>
            </template>
          </el-tree-v2>
        </div>
      </template>
    </aside>
    <section class="middle">
      <div ref="box" class="stage">
        <canvas ref="canvas" aria-label="Scene" @pointerdown="onDown" @pointerup="onUp" @contextmenu.prevent />
        <EmptyPlace v-if="!models.length && !loading && !problem" title="Choose models on the left" class="over"
          >They are drawn together, each in its own place.</EmptyPlace
        >
        <p v-if="loading" class="over plain">{{ loading }}</p>
        <EmptyPlace v-if="problem" :title="problem" class="over"
          ><button class="button-link" @click="problem = ''">Go on</button></EmptyPlace
        >
        <div v-if="section" class="cutter">
          <b>Section {{ section.axis.toUpperCase() }}</b>
          <el-slider
            v-model="section.at"
            :min="range[0]"
            :max="range[1]"
            :step="0.05"
            :show-tooltip="false"
            style="width: 220px"
            aria-label="Position of the section"
          />
          <span class="mono">{{ length(section.at) }}</span>
          <button class="button-link" @click="section.flipped = !section.flipped">Other side</button>
          <button class="button-link" @click="cut(null)">Remove</button>
        </div>
      </div>
      <div class="tool-strip" role="toolbar" aria-label="Tools">
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
        <button title="Hide what is selected (X)" :disabled="!selection.length" @click="hide(selection)">
          <EyeOff :size="16" :stroke-width="1.5" /> Hide
        </button>
        <button title="Only what is selected (I)" :disabled="!selection.length" @click="isolate(selection)">
          <Focus :size="16" :stroke-width="1.5" /> Isolate
        </button>
        <button title="Show all (A)" :disabled="!hidden.size && !isolated" @click="showAll">
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
      </div>
    </section>
    <PropertyPanel
      v-if="selection[0] && chosenModel"
      class="beside"
      :project-id="project.projectId"
      :element="selection[0]"
      :model="chosenModel"
      :others="selection.length - 1"
    />
    <RaiseIssue v-if="raising" :picture="picture" :prepare-viewpoint="saveViewpoint" @close="raising = false" />
  </div>
</template>

<style scoped>
.scene {
  height: 100%;
  display: grid;
  grid-template-columns: 216px minmax(0, 1fr) auto;
  grid-template-rows: auto minmax(0, 1fr);
}
.scene > * {
  grid-row: 2;
}
.scene > .newer {
  grid-area: 1 / 1 / 2 / -1;
}
.left {
  border-right: 1px solid var(--hairline);
  padding: 12px 0 0 12px;
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.left > .el-input {
  padding-right: 12px;
  margin: 4px 0;
}
.model {
  display: flex;
  gap: 6px;
  padding: 3px 12px 3px 0;
  align-items: center;
}
.model span:nth-child(2) {
  flex: 1;
}
.tree {
  flex: 1;
  min-height: 0;
  --el-fill-color-blank: transparent;
}
.node {
  display: flex;
  align-items: center;
  gap: 5px;
  width: 100%;
  min-width: 0;
  font-size: 12px;
}
.node .label {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.node.gone {
  opacity: 0.45;
}
.node.on {
  font-weight: 600;
  color: var(--action);
}
.node button {
  border: 0;
  background: none;
  padding: 2px 6px 2px 0;
  cursor: pointer;
  color: var(--graphite);
  display: flex;
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
.cutter {
  position: absolute;
  left: 14px;
  top: 12px;
  display: flex;
  align-items: center;
  gap: 14px;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  padding: 2px 14px;
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
</style>
