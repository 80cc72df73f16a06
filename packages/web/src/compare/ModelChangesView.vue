<script setup lang="ts">
/** What changed between two versions of a model: in one picture or side by side, and element by element. */
import {
  addRequests,
  collectRequests,
  judgeChange,
  removeRequest,
  startComparisonExport,
  type Brief,
} from '@kindred/contract/compare/compare';
import { showContainer } from '@kindred/contract/register/register';
import { CHANGE_KINDS, type ChangeKind } from '@kindred/core/compare/change-counts';
import { sayModelChange } from '@kindred/words/model-changes';
import { sayVerdict } from '@kindred/words/sheet-changes';
import { useQuery } from '@pinia/colada';
import { useEventListener } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { isTyping } from '../platform/keyboard.ts';
import { nextOf } from '../platform/next-of.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import VersionSelect from '../register/VersionSelect.vue';
import BesideStage from '../scene/BesideStage.vue';
import { elementNumber, rowOf, slotOf } from '../scene/engine/element-numbers.ts';
import type { SceneEngine } from '../scene/engine/scene-engine.ts';
import { linkCameras } from '../scene/linked-cameras.ts';
import type { LoadedModel } from '../scene/models.ts';
import type { ViewpointToAdd } from '@kindred/contract/scene/scene';
import { viewpointToAdd } from '../scene/save-viewpoint.ts';
import type { Place } from '../scene/SceneStage.vue';
import BriefList from './BriefList.vue';
import { useChangeColours } from './change-colours.ts';
import { CHANGE_LOOK } from './change-look.ts';
import { filterChanges, type ChangeTree } from './change-tree.ts';
import { paintChanges, UNCHANGED, type Side, type Unchanged } from './changes-in-scene.ts';
import ChangeSaid from './ChangeSaid.vue';
import ColoursPanel from './ColoursPanel.vue';
import CompareLayout from './CompareLayout.vue';
import CompareModes from './CompareModes.vue';
import { MODEL_MODES, type ModelMode } from './compare-modes.ts';
import { useComparison } from './comparison.ts';
import ElementHistoryPanel from './ElementHistoryPanel.vue';
import { useModelChanges } from './model-comparison.ts';
import ListTabs from './ListTabs.vue';
import ModelChangeDetails from './ModelChangeDetails.vue';
import ModelChangeList from './ModelChangeList.vue';

const route = useRoute();
const project = useProject();
const { query, set } = useRouteQuery();
const containerId = computed(() => String(route.params.containerId));
const { data: shown, error } = useQuery({
  key: () => [project.projectId, 'container', containerId.value],
  query: () => call(showContainer, { params: { ...project.params, containerId: containerId.value } }),
});
const versions = computed(() =>
  (shown.value?.versions ?? []).filter(({ kind }) => kind === 'model').sort((a, b) => a.number - b.number),
);
usePageSubject(() => shown.value && `Changes of ${shown.value.container.title || shown.value.container.code}`);

/** The numbers of the two versions: those of the address, else the newest one and the one before it. */
const named = (side: Side): number | undefined =>
  versions.value.find(({ number }) => number === Number(query(side)))?.number;
const after = computed(() => named('after') ?? versions.value.at(-1)?.number ?? 0);
const before = computed(
  () => named('before') ?? versions.value.filter(({ number }) => number < after.value).at(-1)?.number ?? 0,
);
const idOf = (number: number): string | undefined => versions.value.find((one) => one.number === number)?.id;
const ids = computed(() => ({ before: idOf(before.value), after: idOf(after.value) }));
const {
  view: compared,
  error: refused,
  params,
  brief,
  read,
  resume,
  cancel,
} = useComparison(
  () => {
    const { before: beforeId, after: afterId } = ids.value;
    return beforeId && afterId ? { beforeId, afterId } : undefined;
  },
  () => 0,
);
const whole = computed(() => compared.value?.sheets[0]);
const isReady = computed(() => compared.value?.comparison.status === 'ready' && whole.value?.outcome === 'compared');
const { data: found } = useModelChanges(() => (isReady.value ? params.value.comparisonId : undefined));
const changes = computed(() => found.value ?? []);

// What is listed
const kinds = ref<ChangeKind[]>([...CHANGE_KINDS]);
const words = ref('');
const by = ref<ChangeTree>('change');
const seen = computed(() => filterChanges(changes.value, kinds.value, words.value));
const chosenNumber = computed(() => Number(query('change')) || undefined);
const chosen = computed(() => changes.value.find(({ number }) => number === chosenNumber.value));
const { colours } = useChangeColours();
const LISTS = { changes: 'Changes', brief: 'Brief' } as const;
const list = computed(() => (query('list') === 'brief' ? 'brief' : 'changes'));
const verdict = computed(() => {
  const comparison = compared.value?.comparison;
  if (refused.value) return refused.value.message;
  if (!comparison) return shown.value && versions.value.length < 2 ? 'There is one version only.' : 'Comparing …';
  if (whole.value?.outcome === 'failed') return whole.value.note;
  if (comparison.status === 'ready') return sayVerdict(comparison.counts, comparison.brief);
  return ['waiting', 'comparing'].includes(comparison.status) ? 'Comparing …' : 'This was not compared to its end.';
});

// What was asked for
const mayAsk = computed(() => project.may('markup', 'add'));
const said = computed(() => new Map((brief.value?.changes ?? []).map((one) => [one.number, one])));
const issueOf = (number: number): string | undefined =>
  brief.value?.raised.find((one) => one.number === number)?.issueId;
const busy = ref(false);
async function change(run: () => Promise<unknown>): Promise<void> {
  busy.value = true;
  await attempt(run);
  await read();
  busy.value = false;
}
const judge = (number: number, asked: boolean | null, requestIds: string[], issueId?: string): Promise<void> =>
  change(() =>
    call(judgeChange, {
      params: params.value,
      body: { position: 1, number, asked, requestIds, ...(issueId && { issueId }) },
    }),
  );
const onBefore = computed(() => ({ ...project.params, versionId: ids.value.before ?? '' }));
const addLines = (lines: string[]): Promise<void> =>
  change(() => call(addRequests, { params: onBefore.value, body: { requests: lines.map((text) => ({ text })) } }));
const request = ref<Brief['requests'][number]>();

// The scene
const mode = computed<ModelMode>(() => (query('as') === 'side' ? 'side' : 'over'));
const unchanged = ref<Unchanged>('ghost');
interface Stage {
  key: string;
  name: string;
  sides: Side[];
}
const stages = computed((): Stage[] => {
  if (!ids.value.before || !ids.value.after) return [];
  if (mode.value === 'over') return [{ key: 'both', name: 'Both versions', sides: ['after', 'before'] }];
  const numbers = { before: before.value, after: after.value };
  return (['before', 'after'] as const).map((side) => ({
    ...{ key: side, name: `Version ${numbers[side]}`, sides: [side] },
  }));
});
const versionIdsOf = ({ sides }: Stage): string[] => sides.flatMap((side) => ids.value[side] ?? []);
interface OpenStage {
  engine: SceneEngine;
  models: readonly LoadedModel[];
}
const open = shallowRef<ReadonlyMap<string, OpenStage>>(new Map());
watch(mode, () => (open.value = new Map()));
const sideOf = (versionId: string): Side => (versionId === ids.value.before ? 'before' : 'after');
const isThere = computed(
  () =>
    stages.value.length > 0 &&
    open.value.size === stages.value.length &&
    [...open.value.values()].every(({ models }) => models.length > 0),
);
function begin({ key }: Stage, engine: SceneEngine): void {
  open.value = new Map([...open.value, [key, { engine, models: [] }]]);
  if (open.value.size === 2) linkCameras([...open.value.values()].map((one) => one.engine));
}
function loaded({ key }: Stage, models: readonly LoadedModel[]): void {
  open.value = new Map([...open.value, [key, { ...open.value.get(key)!, models: [...models] }]]);
}
const rowsOf = ({ models }: OpenStage, wanted = chosen.value): number[] =>
  models.flatMap(({ slot, versionId }) => {
    const row = wanted?.[sideOf(versionId)];
    return row === null || row === undefined ? [] : [elementNumber(slot, row)];
  });
watch([isThere, open, seen, colours, unchanged, chosen], () => {
  if (!isThere.value || !found.value) return;
  for (const { engine, models } of open.value.values())
    paintChanges(
      engine.paint,
      models.map(({ slot, versionId, table }) => ({
        ...{ side: sideOf(versionId), slot, elements: table.globalId.length },
      })),
      { changes: seen.value, colours: colours.value, unchanged: unchanged.value, chosen: chosen.value },
    );
});
/** Where it was and where it is. Cameras are linked: one is enough. */
function lookAtChosen(): void {
  const all = [...open.value.values()];
  const boxes = all.flatMap((stage) => stage.engine.boundsOf(rowsOf(stage)) ?? []);
  const along = (axis: number): number[] => boxes.filter((_, i) => i % 6 === axis);
  if (!boxes.length) return;
  const [low, high] = [
    [0, 1, 2].map((axis) => Math.min(...along(axis))),
    [3, 4, 5].map((axis) => Math.max(...along(axis))),
  ];
  all[0]!.engine.showBox([...low, ...high] as [number, number, number, number, number, number]);
}
watch([isThere, chosen], () => isThere.value && chosen.value && lookAtChosen());
function choose(number: number | undefined): void {
  void set({ change: number === undefined ? undefined : String(number) });
}
function click({ key }: Stage, { x, y }: Place): void {
  const { engine, models } = open.value.get(key)!;
  const element = engine.pick(x, y)?.element;
  const model = models.find(({ slot }) => element !== undefined && slot === slotOf(element));
  const hit = model && changes.value.find((one) => one[sideOf(model.versionId)] === rowOf(element!));
  choose(hit?.number);
}
function step(by: 1 | -1): void {
  const numbers = seen.value.map(({ number }) => number);
  const at = chosenNumber.value === undefined ? -1 : numbers.indexOf(chosenNumber.value);
  const next = nextOf(numbers, at, by);
  if (next !== undefined) choose(next);
}
const raising = ref(false);
useEventListener('keydown', (event: KeyboardEvent) => {
  if (raising.value || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
  const acts: Record<string, () => void> = {
    ArrowDown: () => step(1),
    ArrowUp: () => step(-1),
    e: lookAtChosen,
    h: () => [...open.value.values()][0]?.engine.home(),
    Escape: () => choose(undefined),
  };
  const act = acts[event.key];
  if (!act) return;
  event.preventDefault();
  act();
});

// An issue from a change, where it is seen
const picture = ref('');
/** The picture of the later version; of what is gone, that of the earlier one. */
const pictured = (): { engine: SceneEngine; models: readonly LoadedModel[] } => {
  const all = [...open.value.values()];
  const side: Side = chosen.value?.after === null ? 'before' : 'after';
  const stage = all.find(({ models }) => models.some(({ versionId }) => sideOf(versionId) === side))!;
  return { engine: stage.engine, models: stage.models.filter(({ versionId }) => sideOf(versionId) === side) };
};
function raise(): void {
  picture.value = pictured().engine.picture();
  raising.value = true;
}
const takeViewpoint = (name: string): ViewpointToAdd => {
  const { engine, models } = pictured();
  return viewpointToAdd(name, engine, models);
};
const keepIssue = (issueId: string): Promise<void> => {
  const one = said.value.get(chosenNumber.value!);
  return judge(chosenNumber.value!, one?.ticked ? one.asked : null, [...(one?.requestIds ?? [])], issueId);
};
const jobs = useJobs();
const exportBook = (): Promise<boolean> =>
  attempt(async () => jobs.follow(await call(startComparisonExport, { params: params.value, body: { as: 'xlsx' } })));
</script>

<template>
  <CompareLayout heading="Changes between two versions" side="Changes" :said="verdict">
    <template #side>
      <div class="left">
        <ListTabs :lists="LISTS" :list="list" @list="set({ list: $event === 'changes' ? undefined : $event })" />
        <p class="verdict" role="status">{{ verdict }}</p>
        <p v-if="isReady && whole?.note" class="quiet note">{{ whole.note }}</p>
        <p v-if="compared && ['waiting', 'comparing'].includes(compared.comparison.status)" class="note">
          <button class="button-link" @click="cancel">Stop</button>
        </p>
        <p v-if="compared && ['cancelled', 'failed'].includes(compared.comparison.status)" class="note">
          <button class="button-link" @click="resume">Compare again</button>
        </p>
        <ModelChangeList
          data-help="model-changes/list"
          v-if="list === 'changes' && changes.length"
          v-model:kinds="kinds"
          v-model:words="words"
          v-model:by="by"
          :all="changes"
          :shown="seen"
          :chosen="chosenNumber"
          :colours="colours"
          :said="said"
          @choose="choose"
        />
        <BriefList
          v-else-if="list === 'brief' && brief"
          :brief="brief"
          :may-ask="mayAsk"
          :position="1"
          :chosen="request?.id"
          :busy="busy"
          placeless
          @choose="request = $event"
          @change="choose($event.number)"
          @add="addLines"
          @collect="change(() => call(collectRequests, { params: onBefore }))"
          @remove="({ id }) => change(() => call(removeRequest, { params: { ...project.params, requestId: id } }))"
        />
      </div>
    </template>
    <template #head>
      <b class="mono">{{ shown?.container.code }}</b>
      <VersionSelect
        :version="before"
        :versions="versions.filter(({ number }) => number !== after)"
        label="Version before"
        @version="set({ before: String($event), change: undefined })"
      />
      <span aria-hidden="true">→</span>
      <VersionSelect
        :version="after"
        :versions="versions.filter(({ number }) => number !== before)"
        label="Version after"
        @version="set({ after: String($event), change: undefined })"
      />
      <span class="spread" />
      <button v-if="isReady" class="button-link" @click="exportBook">Export XLSX</button>
      <RouterLink :to="{ name: 'scene', params: project.params, query: { models: ids.after } }">Scene</RouterLink>
    </template>
    <template #default>
      <EmptyPlace v-if="error" title="There is no such model, or you may not see it" style="margin: 40px"
        >Choose one from the register.</EmptyPlace
      >
      <div v-else class="stages" :class="mode">
        <BesideStage
          v-for="stage in stages"
          :key="stage.key"
          :project-id="project.projectId"
          :name="stage.name"
          :version-ids="versionIdsOf(stage)"
          @ready="begin(stage, $event)"
          @loaded="loaded(stage, $event)"
          @click="click(stage, $event)"
          ><b v-if="mode === 'side'">{{ stage.name }}</b></BesideStage
        >
        <ModelChangeDetails
          v-if="chosen"
          class="beside"
          :change="chosen"
          :colour="colours[chosen.kind]"
          :sign="CHANGE_LOOK[chosen.kind].sign"
          :was-colour="mode === 'over' ? colours.removed : undefined"
        >
          <template #acts>
            <RouterLink
              v-if="issueOf(chosen.number)"
              :to="{ name: 'issue', params: { ...project.params, issueId: issueOf(chosen.number)! } }"
              >Its issue</RouterLink
            >
            <button v-else-if="project.may('issues', 'add') && isThere" class="button-link" @click="raise">
              Raise an issue from it
            </button>
            <button class="button-link" @click="lookAtChosen">Look at it (E)</button>
          </template>
          <ChangeSaid
            v-if="brief"
            :said="said.get(chosen.number)"
            :requests="brief.requests"
            :may-say="mayAsk"
            @judge="(asked, requestIds) => judge(chosen!.number, asked, requestIds)"
          />
          <ElementHistoryPanel
            v-if="ids.before && ids.after"
            :version-id="chosen.after === null ? ids.before : ids.after"
            :global-id="chosen.globalId"
          />
        </ModelChangeDetails>
      </div>
      <RaiseIssueDialog
        v-if="raising && chosen"
        :picture="picture"
        :about="`${chosen.name}: ${sayModelChange(chosen)}`"
        :take-viewpoint="takeViewpoint"
        :raised="keepIssue"
        @close="raising = false"
      />
    </template>
    <template #foot>
      <CompareModes
        data-help="model-changes/modes"
        :mode="mode"
        :modes="MODEL_MODES"
        @mode="set({ as: $event === 'side' ? 'side' : undefined })"
      />
      <label class="quiet"
        >What did not change
        <select v-model="unchanged">
          <option v-for="(word, name) in UNCHANGED" :key="name" :value="name">{{ word }}</option>
        </select></label
      >
      <span class="spread" />
      <ColoursPanel />
      <span class="quiet hint">↑ ↓ the changes one by one</span>
    </template>
  </CompareLayout>
</template>

<style scoped>
.left {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.verdict {
  margin: 10px 12px 2px;
  font-weight: 600;
}
.note {
  margin: 2px 12px;
}
.stages {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1px;
  background: var(--hairline);
}
.stages.side {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
}
.stages > * {
  background: var(--paper);
}
.beside {
  width: 290px;
}
select {
  font: inherit;
  min-height: 26px;
}
@media (max-width: 700px) {
  .stages {
    display: flex;
    flex-direction: column;
  }
  .stages > * {
    flex: 1;
  }
  .stages > .beside {
    flex: none;
    width: auto;
    max-height: 32vh;
  }
  .hint {
    display: none;
  }
}
</style>
