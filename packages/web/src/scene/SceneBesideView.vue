<script setup lang="ts">
/** A viewpoint on two versions of its models, beside each other: who moves one camera moves the other. */
import { listContainers, listCurrentVersions, showContainer } from '@kindred/contract/register/register';
import { showViewpoint, type SceneMeasure, type Viewpoint } from '@kindred/contract/scene/scene';
import type { MeasureKind } from '@kindred/core/scene/measure';
import { saySpaceMeasure } from '@kindred/words/measures';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { RouterLink } from 'vue-router';
import { useMeasureUnits } from '../identity/measure-units.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { useProject } from '../portfolio/store.ts';
import BesideStage from './BesideStage.vue';
import type { Place } from './SceneStage.vue';
import { elementNumber, rowOf, slotOf } from './engine/element-numbers.ts';
import type { SceneEngine } from './engine/scene-engine.ts';
import { linkCameras } from './linked-cameras.ts';
import type { LoadedModel } from './models.ts';
import { CHOOSE, MEASURE_TOOLS, type SceneTool } from './tools.ts';
import { pairOf, type VersionPair } from './version-pairs.ts';
import { applyState } from './viewpoint-state.ts';

type Side = 'left' | 'right';
const project = useProject();
const { query, set } = useRouteQuery();
const { data: viewpoint, error } = useQuery({
  key: () => [project.projectId, 'viewpoint', 'beside', query('viewpoint')],
  query: () => call(showViewpoint, { params: { ...project.params, viewpointId: query('viewpoint') } }),
  enabled: () => query('viewpoint') !== '',
});

const pairs = ref<VersionPair[]>([]);
/** The versions of each model of the viewpoint, whichever of them it shows. */
async function findPairs({ versionIds }: Viewpoint): Promise<VersionPair[]> {
  const { params } = project;
  const [current, { items }] = await Promise.all([
    call(listCurrentVersions, { params, query: { versionIds: versionIds.join() } }),
    call(listContainers, { params, query: { kind: 'model', limit: 200 } }),
  ]);
  const found = await Promise.all(
    versionIds.map(async (seen) => {
      const known = current.find(({ versionId }) => versionId === seen);
      const container = items.find(({ versionId }) => versionId === (known?.current.versionId ?? seen));
      if (!container) return [];
      const { versions } = await call(showContainer, { params: { ...params, containerId: container.id } });
      const choices = versions.map(({ id, number, revision, preparation }) => ({
        ...{ id, number, revision },
        ready: preparation === 'ready',
      }));
      return [pairOf(container.title || container.code, choices, seen)];
    }),
  );
  return found.flat();
}
watch(
  viewpoint,
  async (value) => {
    if (value) pairs.value = await findPairs(value);
  },
  { immediate: true },
);
const chosen = (side: Side): string[] => {
  const asked = query(side).split(',').filter(Boolean);
  return pairs.value.map((pair) => asked.find((id) => pair.versions.some((one) => one.id === id)) ?? pair[side]);
};
const sides = computed((): Record<Side, string[]> => ({ left: chosen('left'), right: chosen('right') }));
function choose(side: Side, index: number, versionId: string): void {
  void set({ [side]: sides.value[side].map((id, i) => (i === index ? versionId : id)).join() });
}
usePageSubject(() => viewpoint.value?.name ?? 'Two versions');

// Measured on one side, read on both: the same two places, whatever stands there now.
const tool = ref<SceneTool>(CHOOSE);
const measures = ref<SceneMeasure[]>([]);
const { units } = useMeasureUnits();
const say = (measure: SceneMeasure): string => saySpaceMeasure(measure.kind as 'distance', measure.value, units.value);
const take = (kind: string): void => void (tool.value = kind ? { act: 'measure', kind: kind as MeasureKind } : CHOOSE);

const scenes = new Map<Side, SceneEngine>();
const models: Record<Side, readonly LoadedModel[]> = { left: [], right: [] };
function begin(side: Side, engine: SceneEngine): void {
  scenes.set(side, engine);
  if (scenes.size === 2) linkCameras([...scenes.values()]);
}
function show(side: Side, loaded: readonly LoadedModel[]): void {
  models[side] = loaded;
  if (viewpoint.value) applyState(scenes.get(side)!, loaded, viewpoint.value.state, false);
}

/** What is clicked on one side is chosen on both. */
const said = ref('');
function click(side: Side, { x, y }: Place): void {
  const element = scenes.get(side)?.pick(x, y)?.element;
  const table = element === undefined ? undefined : models[side].find(({ slot }) => slot === slotOf(element))?.table;
  const id = table?.globalId[rowOf(element!)];
  const missing: string[] = [];
  for (const [other, scene] of scenes) {
    const found = models[other].flatMap(({ slot, table: of }) => {
      const row = id ? of.globalId.indexOf(id) : -1;
      return row < 0 ? [] : [elementNumber(slot, row)];
    });
    scene.paint.select(found);
    if (id && !found.length) missing.push(other);
  }
  const name = table && (table.name[rowOf(element!)] || 'Without a name');
  said.value = name ? `${name}${missing.length ? `: not there on the ${missing.join()}` : ''}` : '';
}
</script>

<template>
  <div class="beside">
    <header class="head">
      <h1>{{ viewpoint?.name ?? 'Two versions' }}</h1>
      <span role="status">{{ said }}</span>
      <label data-help="scene-beside/measure"
        >Measure
        <select
          :value="tool.act === 'measure' ? tool.kind : ''"
          @change="take(($event.target as HTMLSelectElement).value)"
        >
          <option value="">nothing</option>
          <option v-for="one in MEASURE_TOOLS" :key="one.kind" :value="one.kind">{{ one.words }}</option>
        </select></label
      >
      <button v-if="measures.length" class="button-link" @click="measures = []">Clear measures</button>
      <RouterLink v-if="viewpoint" :to="{ name: 'scene', params: project.params, query: { viewpoint: viewpoint.id } }"
        >Open in the scene</RouterLink
      >
    </header>
    <EmptyPlace v-if="error || !query('viewpoint')" title="Choose a viewpoint first"
      >It does not exist, or shows models that are not shared with you. Viewpoints lists those that you see.</EmptyPlace
    >
    <BesideStage
      v-for="side in ['left', 'right'] as const"
      v-else
      :key="side"
      :project-id="project.projectId"
      :name="side === 'left' ? 'Earlier' : 'Later'"
      :version-ids="sides[side]"
      @ready="begin(side, $event)"
      @loaded="show(side, $event)"
      :tool="tool"
      :measures="measures"
      :say="say"
      @click="click(side, $event)"
      @measured="measures = [...measures, $event]"
    >
      <label v-for="(pair, i) in pairs" :key="pair.title"
        >{{ pair.title }}
        <select :value="sides[side][i]" @change="choose(side, i, ($event.target as HTMLSelectElement).value)">
          <option v-for="one in pair.versions" :key="one.id" :value="one.id">
            version {{ one.number }}{{ one.revision && `, ${one.revision}` }}
          </option>
        </select></label
      >
    </BesideStage>
  </div>
</template>

<style scoped>
.beside {
  height: 100%;
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 1px;
  background: var(--hairline);
}
.beside > * {
  background: var(--paper);
}
.head {
  grid-column: 1 / -1;
  display: flex;
  align-items: baseline;
  gap: 16px;
  padding: 10px 12px;
  border-bottom: 1px solid var(--hairline);
}
.head span {
  flex: 1;
  color: var(--graphite);
}
select {
  font: inherit;
  min-height: 26px;
}
@media (max-width: 700px) {
  .beside {
    grid-template: auto minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr);
  }
}
</style>
