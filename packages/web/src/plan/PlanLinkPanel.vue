<script setup lang="ts">
/** Says where a sheet lies in a model: by its walls, or by two points that somebody knows on both. Nothing counts until it is taken. */
import { linkPlan, type PlanLink } from '@kindred/contract/plan/plan-links';
import { listContainers } from '@kindred/contract/register/register';
import { CodedError } from '@kindred/core/platform/coded-error';
import { METRES_PER_POINT } from '@kindred/core/drawing/scale';
import { mapOfPairs, metresPerPointOf, type PlanMap, type PlanPair, type PlanPoint } from '@kindred/core/plan/plan-map';
import { proposePlan } from '@kindred/core/plan/propose-plan';
import type { PlacedElement } from '@kindred/core/plan/storey-plan';
import { X } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import StoreyPlan from './StoreyPlan.vue';
import { elementsOfStorey, usePlanModel } from './plan-model.ts';

const props = defineProps<{
  containerId: string;
  page: number;
  /** What the sheet draws; undefined where it is a picture, or is still coming. */
  segments: Float32Array | undefined;
  /** Of the title block, or calibrated. */
  metresPerPoint: number | undefined;
  /** The point that was clicked on the sheet last. */
  clicked: PlanPoint | undefined;
  link: PlanLink | undefined;
}>();
const emit = defineEmits<{
  close: [];
  linked: [];
  /** A point on the sheet is asked for. */
  asks: [asks: boolean];
  overlay: [shown: { elements: PlacedElement[]; map: PlanMap } | undefined];
}>();
const project = useProject();
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'models'],
  query: () => call(listContainers, { params: project.params, query: { kind: 'model', limit: 200 } }),
});
const offered = computed(() => (data.value?.items ?? []).filter(({ preparation }) => preparation === 'ready'));
const modelId = ref(props.link?.modelId ?? '');
const chosen = computed(() => offered.value.find(({ id }) => id === modelId.value));
const { model, loading, storeys } = usePlanModel(
  () => project.projectId,
  () => chosen.value?.versionId,
);
const storeyName = ref(props.link?.storey ?? '');
const storey = computed(() => storeys.value.find(({ name }) => name === storeyName.value));
watch(storeys, (list) => {
  if (list.length && !list.some(({ name }) => name === storeyName.value)) storeyName.value = list[0]!.name;
});
const elements = computed(() => (model.value ? elementsOfStorey(model.value, storey.value) : []));

const pairs = ref<PlanPair[]>([]);
const waiting = ref<PlanPoint>();
watch([modelId, storeyName, () => props.page], () => ((pairs.value = []), (waiting.value = undefined)));
const proposed = computed(() =>
  props.segments && props.metresPerPoint && elements.value.length && !pairs.value.length
    ? proposePlan(props.segments, elements.value, props.metresPerPoint)
    : undefined,
);
const byPairs = computed(() => {
  if (pairs.value.length < 2) return undefined;
  try {
    return mapOfPairs(pairs.value);
  } catch (error) {
    if (error instanceof CodedError) return undefined;
    throw error;
  }
});
const found = computed(() => byPairs.value ?? proposed.value);
watch(
  () => [found.value, elements.value] as const,
  ([at, list]) => emit('overlay', at && { elements: list, map: at.map }),
  { immediate: true },
);
const asksSheet = computed(() => elements.value.length > 0 && !waiting.value);
watch(asksSheet, (asks) => emit('asks', asks), { immediate: true });
watch(
  () => props.clicked,
  (at) => asksSheet.value && at && (waiting.value = at),
);
function take(at: [number, number]): void {
  pairs.value = [...pairs.value, { plan: [...waiting.value!], model: at }];
  waiting.value = undefined;
}
const millimetres = (metres: number): string => `${Math.round(metres * 1000)} mm`;
const scaleOf = (map: PlanMap): string => `1:${Math.round(metresPerPointOf(map) / METRES_PER_POINT)}`;

const saving = ref(false);
async function save(): Promise<void> {
  const { map, error } = found.value!;
  const above = storeys.value[storeys.value.indexOf(storey.value!) + 1];
  saving.value = true;
  const done = await attempt(() =>
    call(linkPlan, {
      params: project.params,
      body: {
        ...{ containerId: props.containerId, page: props.page, modelId: modelId.value, storey: storey.value!.name },
        ...{ elevation: storey.value!.elevation, top: above?.elevation ?? null, map, error, pairs: pairs.value },
      },
    }),
  );
  saving.value = false;
  if (!done) return;
  sayDone('Linked: click anything on this sheet to see what it is in the model.');
  emit('linked');
}
</script>

<template>
  <section class="over-surface link" aria-label="Link with a model" @keydown.esc.stop="emit('close')">
    <div class="row">
      <b>Link with a model</b>
      <span class="spread" />
      <button class="button-link" title="Close (Esc)" @click="emit('close')"><X :size="16" /></button>
    </div>
    <label class="field"
      ><span>Model</span
      ><el-select v-model="modelId" size="small" filterable default-first-option
        ><el-option v-for="one in offered" :key="one.id" :value="one.id" :label="one.title || one.code" /></el-select
    ></label>
    <label v-if="storeys.length" class="field"
      ><span>Storey</span
      ><el-select v-model="storeyName" size="small"
        ><el-option v-for="one in storeys" :key="one.node" :value="one.name" :label="one.name" /></el-select
    ></label>
    <p v-if="loading" class="quiet">Opening the model …</p>
    <p v-else-if="model && !storeys.length" class="quiet">This model has no storeys with elements. Choose another.</p>
    <template v-if="elements.length">
      <StoreyPlan
        :elements="elements"
        :points="pairs.map(({ model: at }) => at)"
        :asks="waiting !== undefined"
        @point="take"
      />
      <p role="status" class="said">
        <template v-if="waiting">Now click the same point here, on the storey.</template>
        <template v-else-if="byPairs"
          >By {{ pairs.length }} points: {{ millimetres(byPairs.error) }} off, drawn at {{ scaleOf(byPairs.map) }}. Look
          whether the walls lie on the lines.</template
        >
        <template v-else-if="pairs.length">Click a second point on the sheet, far from the first.</template>
        <template v-else-if="proposed"
          >A proposal: {{ Math.round(proposed.matched * 100) }} % of the walls lie on lines of the sheet,
          {{ millimetres(proposed.error) }} off. Look whether they do, or click a point on the sheet to link it by
          hand.</template
        >
        <template v-else
          >{{
            metresPerPoint ? 'The walls of this storey are not found on the sheet.' : 'The sheet names no scale.'
          }}
          Click a point on the sheet, then the same point here; two are needed.</template
        >
      </p>
    </template>
    <div class="row">
      <button v-if="pairs.length" class="button-link" @click="((pairs = []), (waiting = undefined))">Begin anew</button>
      <span class="spread" />
      <el-button type="primary" size="small" :disabled="!found || !storey" :loading="saving" @click="save"
        >Take this link</el-button
      >
    </div>
  </section>
</template>

<style scoped>
.link {
  top: 8px;
  left: 8px;
  width: min(300px, calc(100% - 16px));
  max-height: calc(100% - 16px);
  overflow: auto;
  display: grid;
  gap: 8px;
  padding: 10px;
}
.said {
  margin: 0;
}
</style>
