<script setup lang="ts">
import { listContainers } from '@kindred/contract/register/register';
import type { PropertyKey } from '@kindred/core/scene/element-index';
import { saySpaceMeasure } from '@kindred/words/measures';
import { Camera, Flag } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { useEventListener } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useMeasureUnits } from '../identity/measure-units.ts';
import { usePreference } from '../identity/preferences.ts';
import ElementHistoryPanel from '../compare/ElementHistoryPanel.vue';
import { elementRefs } from './element-refs.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import { usePinsInScene } from '../plan/pins-in-scene.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import { call } from '../platform/api.ts';
import { isTyping } from '../platform/keyboard.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { answered, attempt, sayDone, sayProblem } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import NewerOffer from '../register/NewerOffer.vue';
import { useNewerVersions } from '../register/newer-versions.ts';
import { useRegisterWords } from '../register/words.ts';
import ColourPanel from './ColourPanel.vue';
import ElementMenu, { type MenuAct } from './ElementMenu.vue';
import ElementTree from './ElementTree.vue';
import FilterPanel from './FilterPanel.vue';
import LevelPanel from './LevelPanel.vue';
import ModelList from './ModelList.vue';
import OthersSelections from './OthersSelections.vue';
import PropertyPanel from './PropertyPanel.vue';
import SceneCompass from './SceneCompass.vue';
import SceneList from './SceneList.vue';
import SceneOverlay from './SceneOverlay.vue';
import ScenePins from './ScenePins.vue';
import SceneStage, { type Place } from './SceneStage.vue';
import SceneTools from './SceneTools.vue';
import SchedulePanel from './SchedulePanel.vue';
import SlidesPanel from './SlidesPanel.vue';
import SectionPanel from './SectionPanel.vue';
import SunPanel from './SunPanel.vue';
import { useCutting } from './cutting.ts';
import { elementsAlike } from './alike.ts';
import { rowOf, slotOf } from './engine/element-numbers.ts';
import type { CameraMode } from './engine/cameras.ts';
import type { Picked } from './engine/picking.ts';
import type { Appearance, SceneEngine, SceneStats } from './engine/scene-engine.ts';
import { UNCUT, type Section } from './engine/sections.ts';
import { filterText, readFilter } from './filter-text.ts';
import { useElementFacts } from './facts/facts.ts';
import { saveMeasures, saveSchedule, saveSelection } from './facts/save-table.ts';
import { useLayers } from './layers.ts';
import { liftsOf, storeysOf } from './lifting.ts';
import type { LoadedModel } from './models.ts';
import { useOpenModels } from './open-models.ts';
import { useOthersSelections } from './others-selections.ts';
import { usePointing } from './pointing.ts';
import { CHOOSE } from './tools.ts';
import { coloursBySlot, type ColouredValue } from './value-colours.ts';
import { useViewing } from './viewing.ts';

const project = useProject();
const router = useRouter();
const { query, set } = useRouteQuery();

const engine = shallowRef<SceneEngine>();
const pictures = ref(0);
const stats = ref<SceneStats>({ calls: 0, triangles: 0, elements: 0, missing: 0, megabytes: 0, milliseconds: 0 });
const heading = ref(0);
const finished = ref(false);
/** Where the camera is, for whoever reads the page without seeing it. */
const eye = ref('');

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
/** The model and version that an element comes from. */
function sourceOf(versionId: string): string {
  const container = ready.value.find((item) => item.versionId === versionId);
  return container
    ? `${container.code} ${container.revision}, version ${container.versionNumber}`
    : 'an earlier version';
}
const appearance = usePreference<Appearance>('look-of-scene', {
  ...{ edges: true, shading: true, ground: true, capWithColour: false },
});
const { models, loading, problem, filling, fill, load } = useOpenModels(
  engine,
  () => project.projectId,
  titleOf,
  () => appearance.value.onlyLargest ?? false,
);
/** The models that are on the screen: what is told of them is made after them, so that nobody waits for it. */
const drawn = shallowRef<LoadedModel[]>([]);
watch(models, () => requestAnimationFrame(() => setTimeout(() => (drawn.value = models.value))));
const registerWords = useRegisterWords();
const facts = useElementFacts(
  drawn,
  () => project.projectId,
  (versionId) => {
    const container = ready.value.find((item) => item.versionId === versionId);
    return container ? registerWords.parts(container) : {};
  },
);
const containerOf = (versionId: string) => ready.value.find((item) => item.versionId === versionId);
function disciplineOf(versionId: string): string {
  const container = containerOf(versionId);
  return (container && registerWords.parts(container).Discipline) || titleOf(versionId);
}
const openContainers = computed(() =>
  models.value.flatMap(({ versionId }) => {
    const container = containerOf(versionId);
    return container ? [{ containerId: container.id, versionId }] : [];
  }),
);
const tables = computed(() => new Map(models.value.map(({ versionId, table }) => [versionId, table])));
const open = computed(() => [...wanted.value, ...models.value.map(({ versionId }) => versionId)]);
const openVersions = (ids: string[]): Promise<void> =>
  set({ models: ids.join(',') || undefined, viewpoint: undefined });
const { newer, follow: followNewer, takeAll: takeNewer } = useNewerVersions(wanted, (ids) => void openVersions(ids));
function toggleModel(versionId: string): void {
  const { value } = wanted;
  void openVersions(value.includes(versionId) ? value.filter((id) => id !== versionId) : [...value, versionId]);
}

// The engine
const LOST = 'The picture was lost: this machine ran out of graphics memory. It comes back by itself.';
function begin(scene: SceneEngine): void {
  engine.value = scene;
  scene.setAppearance(appearance.value);
  scene.onDrawn = () => {
    stats.value = scene.stats();
    heading.value = scene.cameras.heading();
    eye.value = scene
      .view()
      .position.map((value) => value.toFixed(2))
      .join(' ');
    finished.value = false;
    pictures.value++;
  };
  scene.onFinished = () => {
    finished.value = true;
    void fill();
    void writeView();
  };
  scene.passable = (slot, row) => {
    const table = models.value.find((model) => model.slot === slot)?.table;
    return table !== undefined && /^IfcDoor/.test(table.classes[table.class[row]!]!);
  };
  void follow();
}
watch(appearance, (value) => {
  engine.value?.setAppearance(value);
  void fill();
});
const mode = ref<CameraMode>('orbit');
const projection = ref<'perspective' | 'orthographic'>('perspective');
watch(pictures, () => {
  mode.value = engine.value!.cameras.mode;
  projection.value = engine.value!.cameras.projection;
});
const { layers, edition: painted } = useLayers(engine);
const others = useOthersSelections(layers, painted, models);
const cutting = useCutting(engine);
const { cuts } = cutting;
const selected = computed((): ReadonlySet<number> => {
  void painted.value;
  return new Set(layers.value?.selection ?? []);
});
const isThinned = computed(() => painted.value >= 0 && (layers.value?.isThinned ?? false));
const first = computed(() => [...selected.value][0]);
const modelAt = (element: number): LoadedModel | undefined => models.value.find(({ slot }) => slot === slotOf(element));
const chosenModel = computed(() => (first.value === undefined ? undefined : modelAt(first.value)));
const select = (elements: readonly number[], add = false): void => layers.value?.select(elements, add);
const toggle = (elements: readonly number[]): void => {
  const { value: paint } = layers;
  if (elements.some((element) => !paint!.isHidden(element))) paint!.hide(elements);
  else paint!.show(elements);
};
const storeys = computed(() => storeysOf(models.value));

// Pointing
const { units } = useMeasureUnits();
const say = (measure: { kind: string; value: number }): string =>
  saySpaceMeasure(measure.kind as 'distance', measure.value, units.value);
const pointing = usePointing(engine, async () => {
  const answer = await answered(
    ElMessageBox.prompt('What does it say?', 'Mark', { confirmButtonText: 'Mark', cancelButtonText: 'Cancel' }),
  );
  return answer && (answer.value ?? '').trim();
});
const { tool, measures, marks } = pointing;
function click(place: Place, add: boolean): void {
  if (pointing.isPointing.value) {
    void pointing.click(place).then(cutting.read);
    return;
  }
  const picked = engine.value?.pick(place.x, place.y);
  select(picked ? [picked.element] : [], add);
}
function frame(from: Place, to: Place, add: boolean): void {
  select(engine.value!.within(from, to), add);
}

// Menu of an element
const menu = ref<{ x: number; y: number; picked: Picked | null; name: string | null }>();
function openMenu({ x, y }: Place, picked: Picked | null): void {
  const model = picked && modelAt(picked.element);
  const name = model ? model.table.name[rowOf(picked.element)] || 'Without a name' : null;
  menu.value = { x, y, picked, name };
}
async function act(what: MenuAct): Promise<void> {
  const picked = menu.value?.picked;
  menu.value = undefined;
  const scene = engine.value!;
  if (what === 'show' || !picked) return scene.paint.showAll();
  const { element } = picked;
  const model = modelAt(element)!;
  const one = [element];
  const acts: Record<Exclude<MenuAct, 'show'>, () => unknown> = {
    closer: () => scene.showElements(one),
    turn: () => scene.centreOn(picked),
    hide: () => scene.paint.hide(one),
    ghost: () => scene.paint.ghost(one),
    isolate: () => scene.paint.isolate(one),
    type: () => select(elementsAlike(models.value, model, rowOf(element), false)),
    storey: () => select(elementsAlike(models.value, model, rowOf(element), true)),
    system: () => selectSystem(element),
    cut: () => {
      tool.value = { act: 'cut' };
      const at = scene.toScreen(picked.at);
      return at && pointing.click({ x: at[0], y: at[1] }).then(cutting.read);
    },
    box: () => cutting.around(one),
    copy: () => copy(model.table.globalId[rowOf(element)]!, 'GlobalId copied'),
    raise: () => {
      select(one);
      raise();
    },
  };
  await acts[what]();
}
async function selectSystem(element: number): Promise<void> {
  const groups = await facts.remote.group({ set: '', name: 'System' });
  const system = groups.find(({ value, elements }) => value !== null && elements.includes(element));
  if (system) select([...system.elements]);
  else sayProblem('This element belongs to no system.');
}
async function copy(text: string, done: string): Promise<void> {
  if (await attempt(() => navigator.clipboard.writeText(text))) sayDone(done);
}

// Sections, plans, storeys apart
/** Anew whenever something is drawn: models come and go. */
const reach = (direction: Section['direction']) => (void pictures.value, cutting.reach(direction));
function cut(how: 'x' | 'y' | 'z' | 'face' | 'box' | 'none'): void {
  if (!engine.value) return;
  if (how === 'none') cutting.set(UNCUT);
  else if (how === 'face') tool.value = { act: 'cut' };
  else if (how === 'box') cutting.around(selected.value.size ? selected.value : undefined);
  else cutting.across(how);
}
const apart = ref(0);
const lifting = ref(false);
watch([apart, models], ([by]) => engine.value?.lift(by ? liftsOf(models.value, by) : null));
function toggleLift(): void {
  lifting.value = !lifting.value;
  apart.value = lifting.value ? 3 : 0;
}

const sunny = ref(false);
/** Where the models stand, as the first that knows says it. */
const place = computed(() => {
  const said = models.value.map(({ table }) => table.place).find((one) => one?.latitude != null);
  const north = models.value.map(({ table }) => table.place?.trueNorth).find((one) => one != null);
  return {
    known: said !== undefined,
    trueNorth: north,
    sun: { latitude: said?.latitude ?? 0, longitude: said?.longitude ?? 0, trueNorth: north ?? 0 },
  };
});

// Filter, colours, schedule
const side = ref<'elements' | 'levels' | 'filter' | 'colour'>(query('filter') ? 'filter' : 'elements');
const filter = ref(readFilter(query('filter')));
watch(filter, (value) => void set({ filter: filterText(value) || undefined }));
const colouredBy = shallowRef<PropertyKey | null>(null);
const scheduling = ref(false);
function colour(values: ColouredValue[] | null): void {
  const sizes = new Map(models.value.map(({ slot, table }) => [slot, table.globalId.length]));
  layers.value?.colour(values && coloursBySlot(values, sizes));
}

// Address and viewpoints
const { follow, writeView, takeViewpoint, askAndSave } = useViewing({
  ...{ engine, models, wanted, load, problem, measures, marks, colouredBy },
  seen() {
    cutting.read();
    if (colouredBy.value) side.value = 'colour';
  },
});
const pins = usePinsInScene(() => models.value.map(({ versionId }) => versionId));
const picture = ref('');
const raising = ref(false);
function raise(): void {
  picture.value = engine.value!.picture();
  raising.value = true;
}

function elementsAct(what: 'closer' | 'hide' | 'isolate' | 'ghost' | 'show'): void {
  const scene = engine.value;
  if (!scene) return;
  const chosen = [...selected.value];
  if (what === 'show') scene.paint.showAll();
  else if (what === 'closer') scene.showElements(chosen);
  else scene.paint[what](chosen);
}
function leaveTool(): void {
  if (tool.value.act !== 'choose') tool.value = CHOOSE;
  else if (mode.value !== 'orbit') engine.value?.setMode('orbit');
  else select([]);
}
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
  const scene = engine.value;
  const acts: Record<string, () => unknown> = {
    h: () => scene?.home(),
    e: () => elementsAct('closer'),
    x: () => elementsAct('hide'),
    i: () => elementsAct('isolate'),
    g: () => elementsAct('ghost'),
    a: () => elementsAct('show'),
    o: () => scene?.setMode('orbit'),
    t: () => scene?.setMode('turn'),
    f: () => scene?.setMode('fly'),
    w: () => scene?.setMode('walk'),
    p: () => scene?.setProjection(projection.value === 'perspective' ? 'orthographic' : 'perspective'),
    m: () => (tool.value = { act: 'measure', kind: 'distance' }),
    b: () => (tool.value = { act: 'frame' }),
    s: () => (scheduling.value = !scheduling.value),
    Enter: () => tool.value.act === 'mark' && pointing.finish(),
    Escape: leaveTool,
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
        <ModelList data-help="scene/models" :models="ready" :open="open" :tables="tables" @toggle="toggleModel" />
        <template v-if="models.length && layers">
          <nav
            v-arrow-keys="'button'"
            class="sides"
            data-help="scene/sides"
            aria-label="Elements, levels, filter, colours, schedule"
          >
            <button
              v-for="[one, words] in [
                ['elements', 'Elements'],
                ['levels', 'Levels'],
                ['filter', 'Filter'],
                ['colour', 'Colour'],
                ['schedule', 'Schedule'],
              ] as const"
              :key="one"
              :aria-pressed="one === 'schedule' ? scheduling : side === one"
              @click="one === 'schedule' ? (scheduling = !scheduling) : (side = one)"
            >
              {{ words }}
            </button>
          </nav>
          <ElementTree
            v-if="side === 'elements'"
            data-help="scene/tree"
            :models="drawn"
            :title-of="titleOf"
            :layers="layers"
            :painted="painted"
            :facts="facts"
            @select="select"
            @toggle="toggle"
          />
          <LevelPanel
            v-if="side === 'levels'"
            data-help="scene/levels"
            :models="drawn"
            :discipline-of="disciplineOf"
            :open="openContainers"
            @isolate="(elements, rest) => layers?.isolate(elements, rest)"
            :hidden="() => layers!.state().hidden"
            @hide="(elements) => layers?.hide(elements)"
            @all="layers?.showAll()"
            @models="openVersions"
          />
          <FilterPanel
            v-if="side === 'filter'"
            data-help="scene/filter"
            v-model="filter"
            :facts="facts"
            @select="select($event)"
            @isolate="(elements, rest) => layers?.isolate(elements, rest)"
          />
          <ColourPanel
            v-if="side === 'colour'"
            data-help="scene/colour"
            v-model="colouredBy"
            :facts="facts"
            @colour="colour"
            @select="select"
          />
        </template>
      </div>
    </SideList>
    <section class="middle">
      <SceneStage
        :framing="tool.act === 'frame'"
        data-help="scene/picture"
        :hovering="pointing.isPointing.value"
        :data-models="models.length"
        :data-finished="finished && !filling"
        :data-eye="eye"
        @ready="begin"
        @failed="
          problem =
            'This browser cannot draw in three dimensions (WebGL is off). The rest of the application works without it.'
        "
        @lost="problem = LOST"
        @back="problem = ''"
        @click="click"
        @hover="pointing.hover"
        @menu="openMenu"
        @frame="frame"
      >
        <SceneOverlay
          v-if="engine"
          :to-screen="(at) => engine!.toScreen(at)"
          :drawn="pictures"
          :measures="measures"
          :marks="marks"
          :say="say"
          :pending="pointing.pending.value"
          :aim="pointing.aim.value"
          @move="pointing.move"
        />
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
        <SectionPanel :cuts="cuts" :range-of="reach" @change="cutting.set" />
        <p v-if="pointing.hint.value" class="hint" role="status">
          {{ pointing.hint.value }} <button class="button-link" @click="tool = CHOOSE">Leave (Esc)</button>
        </p>
        <label v-if="lifting" class="hint"
          >Storeys apart by <input v-model.number="apart" type="range" min="0" max="12" step="0.5" />
          <span class="mono">{{ apart }} m</span></label
        >
        <SceneList
          :measures="measures"
          :marks="marks"
          :say="say"
          @remove-measure="measures = measures.filter((_, i) => i !== $event)"
          @remove-mark="marks = marks.filter((_, i) => i !== $event)"
          @export="saveMeasures(measures.map((one) => [one.kind, say(one)]))"
          @copy="copy(measures.map((one) => `${one.kind}\t${say(one)}`).join('\n'), 'Measures copied')"
          @clear="pointing.clear"
        />
        <OthersSelections :others="others" @show="engine?.showElements($event)" />
        <SlidesPanel
          v-if="query('slides')"
          :folder="query('slides')"
          :current="query('viewpoint')"
          @show="set({ viewpoint: $event, models: undefined, camera: undefined })"
          @close="set({ slides: undefined })"
        />
        <div v-if="models.length && !query('slides')" class="keep">
          <button v-if="project.may('scene', 'add')" data-help="scene/viewpoint" @click="askAndSave">
            <Camera :size="16" :stroke-width="1.5" /> Save viewpoint
          </button>
          <button v-if="project.may('issues', 'add')" data-help="scene/issue" @click="raise">
            <Flag :size="16" :stroke-width="1.5" /> Raise issue
          </button>
        </div>
        <span class="mono quiet stats" data-test="scene-stats"
          >{{ stats.elements }} elements<template v-if="stats.missing">
            ({{ stats.missing }}
            {{
              filling || loading
                ? 'still to come'
                : appearance.onlyLargest
                  ? 'left out, as you chose'
                  : 'left out: too small from here for the memory of this machine'
            }})</template
          >
          · {{ stats.triangles }} triangles · {{ stats.calls }} draws · {{ stats.megabytes.toFixed(1) }} MB<template
            v-if="stats.milliseconds"
          >
            · {{ stats.milliseconds.toFixed(0) }} ms a picture</template
          ></span
        >
        <SunPanel
          v-if="sunny && models.length"
          :place="place.sun"
          :known="place.known"
          :picture="() => engine!.picture(1280)"
          @shine="engine?.shine($event)"
          @close="sunny = false"
        />
        <SceneCompass
          v-if="models.length"
          data-help="scene/compass"
          :heading="heading"
          :true-north="place.trueNorth === undefined ? undefined : (place.trueNorth! * Math.PI) / 180"
          @look="engine?.lookFrom($event)"
        />
        <ElementMenu
          v-if="menu"
          :x="menu.x"
          :y="menu.y"
          :name="menu.name"
          :may-raise="project.may('issues', 'add')"
          @act="act"
          @close="menu = undefined"
        />
      </SceneStage>
      <SchedulePanel
        v-if="scheduling"
        :facts="facts"
        :selection="selected"
        :painted="painted"
        @select="select($event)"
        @export="(by, sum) => saveSchedule(facts, by, sum)"
        @close="scheduling = false"
      />
    </section>
    <SceneTools
      class="tools"
      v-model:tool="tool"
      :mode="mode"
      :projection="projection"
      :appearance="appearance"
      :storeys="storeys"
      :lifted="lifting"
      :has-sections="cuts.sections.length > 0 || cuts.box !== null"
      :has-selection="selected.size > 0"
      :is-thinned="isThinned"
      @home="engine?.home()"
      @mode="engine?.setMode($event)"
      @projection="engine?.setProjection($event)"
      @plan="cutting.plan"
      @appearance="appearance = $event"
      @cut="cut"
      @lift="toggleLift"
      @sun="sunny = !sunny"
      @elements="elementsAct"
    />
    <PropertyPanel
      v-if="first !== undefined && chosenModel"
      class="beside"
      data-help="scene/properties"
      :project-id="project.projectId"
      :row="rowOf(first)"
      :model="chosenModel"
      :from="sourceOf(chosenModel.versionId)"
      :others="selected.size - 1"
      acts
      @copy="copy(chosenModel.table.globalId[rowOf(first)]!, 'GlobalId copied')"
      @export="saveSelection(facts, [...selected])"
    >
      <ElementHistoryPanel :version-id="chosenModel.versionId" :global-id="chosenModel.table.globalId[rowOf(first)]!" />
    </PropertyPanel>
    <RaiseIssueDialog
      v-if="raising"
      :picture="picture"
      :take-viewpoint="takeViewpoint"
      :elements="elementRefs(models, selected)"
      @close="raising = false"
    />
  </div>
</template>

<style scoped>
.scene {
  height: 100%;
  display: grid;
  grid-template-columns: 248px minmax(0, 1fr) auto;
  grid-template-rows: auto minmax(0, 1fr) auto;
}
.scene > :not(h1) {
  grid-row: 2;
}
.scene > .side {
  grid-row: 2 / 4;
}
.scene > .tools {
  grid-area: 3 / 2 / 4 / -1;
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
.sides {
  display: flex;
  gap: 2px;
  margin: 10px 12px 0 0;
  border-bottom: 1px solid var(--hairline);
}
.sides button {
  flex: 1 1 auto;
  padding: 0;
  min-height: 28px;
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  font: inherit;
  font-size: 12px;
  color: var(--graphite);
  cursor: pointer;
}
.sides button[aria-pressed='true'] {
  border-color: var(--action);
  color: var(--ink);
  font-weight: 600;
}
.middle {
  display: flex;
  flex-direction: column;
  min-width: 0;
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
.hint {
  position: absolute;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 0;
  padding: 6px 14px;
  background: var(--ink);
  color: #fff;
  font-size: 12px;
}
.hint .button-link {
  color: #fff;
  text-decoration: underline;
}
.keep {
  position: absolute;
  right: 14px;
  top: 12px;
  display: flex;
  gap: 2px;
  background: var(--sheet);
  border: 1px solid var(--hairline);
}
.keep button {
  display: flex;
  align-items: center;
  gap: 5px;
  min-height: 30px;
  padding: 0 10px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
}
.keep button:hover {
  background: var(--wash);
}
.stats {
  position: absolute;
  left: 14px;
  /* Longer lines grow upwards, not under the rose. */
  right: 118px;
  bottom: 4px;
  font-size: 10.5px;
  pointer-events: none;
}
.beside {
  width: 250px;
  border-left: 1px solid var(--hairline);
}
@media (max-width: 700px) {
  .scene {
    grid-template: auto auto minmax(0, 1fr) auto auto / minmax(0, 1fr);
  }
  .scene > :not(h1),
  .scene > .newer,
  .scene > .tools {
    grid-area: auto;
  }
  .scene > .middle {
    grid-row: 3;
  }
  .scene > .tools {
    grid-row: 4;
  }
  .left {
    min-height: 60vh;
  }
  .scene > .beside {
    grid-row: 5;
    width: auto;
    max-height: 30vh;
    border-left: 0;
    border-top: 1px solid var(--hairline);
  }
}
</style>
