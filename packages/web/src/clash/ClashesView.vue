<script setup lang="ts">
/** Clashes of a rule: by cause, in the scene, in a table, between disciplines, over time, on the plan; and what is decided of them. */
import {
  cancelClashRun,
  decideClashes,
  removeClashRule,
  startClashRun,
  type Clash,
} from '@kindred/contract/clash/clashes';
import type { Body } from '@kindred/contract/platform/operation';
import { csvLine } from '@kindred/core/platform/csv';
import { counted } from '@kindred/words/sentence';
import { heightsOf } from '@kindred/core/plan/storey-plan';
import { useQueryCache } from '@pinia/colada';
import { useEventListener } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { computed, ref, shallowRef, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { UNCHANGED, type Unchanged } from '../compare/changes-in-scene.ts';
import CompareLayout from '../compare/CompareLayout.vue';
import ListTabs from '../compare/ListTabs.vue';
import { useFederation } from '../federation/federations.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import { useNaming } from '../naming/store.ts';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { elementsOfStorey, usePlanModel } from '../plan/plan-model.ts';
import StoreyDots from '../plan/StoreyDots.vue';
import ChartFigure from '../platform/ChartFigure.vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { saveBlob } from '../platform/files.ts';
import { isTyping } from '../platform/keyboard.ts';
import { nextOf } from '../platform/next-of.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { answered, attempt, sayDone } from '../platform/say.ts';
import { day, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import BesideStage from '../scene/BesideStage.vue';
import type { SceneEngine } from '../scene/engine/scene-engine.ts';
import type { LoadedModel } from '../scene/models.ts';
import type { ViewpointToAdd } from '@kindred/contract/scene/scene';
import { viewpointToAdd } from '../scene/save-viewpoint.ts';
import type { Place } from '../scene/SceneStage.vue';
import AcceptDialog from './AcceptDialog.vue';
import { filterClashes, namePair, plainNames, type ClashTree } from './clash-tree.ts';
import ClashDetails from './ClashDetails.vue';
import { useClashes, useClashRules } from './clashes.ts';
import { boxAround, ClashElements, paintClashes } from './clashes-in-scene.ts';
import ClashList from './ClashList.vue';
import ClashMatrix from './ClashMatrix.vue';
import ClashTable from './ClashTable.vue';
import RuleDialog from './RuleDialog.vue';
import { CLASH_PILES, PILE_LOOK, pileOf, sayClash, type ClashPile } from './words.ts';

const route = useRoute();
const router = useRouter();
const project = useProject();
const cache = useQueryCache();
const people = usePeople();
const time = useTime();
const { query, set } = useRouteQuery();

const { data: rules } = useClashRules();
const ruleId = computed(() => String(route.params.ruleId ?? '') || rules.value?.[0]?.id);
const rule = computed(() => rules.value?.find(({ id }) => id === ruleId.value));
const { clashes: all, groups, runs } = useClashes(() => rule.value?.id);
const { data: federation } = useFederation(() => rule.value?.federationId);
usePageSubject(() => (rule.value ? `Clashes: ${rule.value.name}` : 'Clashes'));
const clashes = computed(() => all.value ?? []);
const goTo = (id: string) => router.push({ name: 'clashes', params: { ...project.params, ruleId: id } });
const params = computed(() => ({ ...project.params, ruleId: rule.value?.id ?? '' }));

// The run
const run = computed(() => rule.value?.run);
const isRunning = computed(() => run.value?.status === 'waiting' || run.value?.status === 'running');
const again = (): Promise<unknown> =>
  Promise.all(['clash rule', 'clash run'].map((type) => cache.invalidateQueries({ key: [project.projectId, type] })));
const start = (): Promise<boolean> =>
  attempt(async () => {
    await call(startClashRun, { params: params.value });
    await again();
  });
const stop = (): Promise<boolean> =>
  attempt(async () => {
    await call(cancelClashRun, { params: params.value });
    await again();
  });
const ranWhen = computed(() => {
  const { value } = run;
  if (!value) return '';
  if (value.status === 'waiting') return 'Waiting to run …';
  if (value.status === 'running') return `Running: ${value.done} of ${counted(value.pairs, 'pair')} of models`;
  if (value.status === 'failed') return 'The last run did not come to its end.';
  if (value.status === 'cancelled') return 'The last run was stopped; these are the results before it.';
  return `Ran ${time.moment(value.endedAt!)} on ${counted(federation.value?.models.length ?? 0, 'model')}`;
});

// What is listed and chosen
const piles = ref<ClashPile[]>(CLASH_PILES.filter((pile) => pile !== 'gone' && pile !== 'accepted'));
const words = ref('');
const by = ref<ClashTree>('cause');
const between = ref<[string, string] | null>(null);
const models = computed(() => new Map((federation.value?.models ?? []).map((model) => [model.containerId, model])));
const titleOf = ({ containerId }: Clash['a']): string => {
  const model = models.value.get(containerId);
  return model ? model.title || model.code : 'a model that is not there any more';
};
/** The discipline that the code of the model says, else the model. */
const naming = useNaming();
const disciplines = computed(
  () =>
    new Map(
      [...naming.byId.values()]
        .flatMap(({ definition }) => definition.fields)
        .flatMap((field) => (field.name === 'Discipline' && field.kind === 'list' ? field.values : []))
        .map(({ code, meaning }) => [code, meaning]),
    ),
);
function sideOf(element: Clash['a']): string {
  const code = models.value.get(element.containerId)?.fields.Discipline;
  return code ? disciplines.value.get(code) || code : titleOf(element);
}
const shown = computed(() =>
  filterClashes(clashes.value, piles.value, words.value).filter(({ a, b }) => {
    if (!between.value) return true;
    return [sideOf(a), sideOf(b)].sort().join() === [...between.value].sort().join();
  }),
);
const chosenIds = ref<ReadonlySet<string>>(new Set(query('clash') ? [query('clash')] : []));
const chosen = computed(() => clashes.value.filter(({ id }) => chosenIds.value.has(id)));
watch(ruleId, (_, before) => before && (chosenIds.value = new Set()));
function choose(wanted: readonly Clash[]): void {
  chosenIds.value = new Set(wanted.map(({ id }) => id));
  void set({ clash: wanted.length === 1 ? wanted[0]!.id : undefined });
}
const chooseOne = (id: string): void => choose(clashes.value.filter((one) => one.id === id));
const title = computed(() => {
  const [first] = chosen.value;
  if (!first) return '';
  if (chosen.value.length === 1) return `${first.number} ${namePair(first)}`;
  const group = groups.value?.find(({ id }) => id === first.groupId);
  return group ? plainNames(group.name) : counted(chosen.value.length, 'clash', 'clashes');
});
function step(by: 1 | -1): void {
  const at = shown.value.findIndex(({ id }) => chosenIds.value.has(id));
  const next = nextOf(shown.value, at, by);
  if (next) choose([next]);
}

// The scene
const TABS = { scene: 'Scene', table: 'Table', matrix: 'Between whom', trend: 'Over time', plan: 'Plan' } as const;
type Tab = keyof typeof TABS;
const tab = computed<Tab>(() => (query('as') in TABS ? (query('as') as Tab) : 'scene'));
const engine = shallowRef<SceneEngine>();
const loaded = shallowRef<readonly LoadedModel[]>([]);
/** Versions of all clashes that are listed, so that stepping through opens nothing anew. */
const versionIds = computed(() => [
  ...new Set(clashes.value.filter(({ state }) => state !== 'gone').flatMap(({ a, b }) => [a.versionId, b.versionId])),
]);
const goneVersions = computed(() =>
  chosen.value.filter(({ state }) => state === 'gone').flatMap(({ a, b }) => [a.versionId, b.versionId]),
);
/** What is gone is shown in the versions in which it was. */
const openVersions = computed(() => [...new Set(goneVersions.value.length ? goneVersions.value : versionIds.value)]);
const elements = computed(() => new ClashElements(loaded.value));
const rest = ref<Unchanged>('ghost');
watch([elements, chosen, shown, rest], () => {
  if (!engine.value || !loaded.value.length) return;
  const bright = chosen.value.length ? chosen.value : shown.value;
  paintClashes(engine.value.paint, loaded.value, elements.value, bright, rest.value);
});
function lookAt(): void {
  const box = boxAround(chosen.value);
  if (box) engine.value?.showBox(box);
}
watch([chosenIds, loaded], () => loaded.value.length && lookAt());
function click({ x, y }: Place): void {
  const element = engine.value?.pick(x, y)?.element;
  const hit = shown.value.filter(({ a, b }) => [a, b].some((side) => elements.value.numberOf(side) === element));
  if (element !== undefined && hit.length) choose(hit);
}

// The plan
const planModel = ref<string>();
const planModels = computed(() => [...models.value.values()].filter(({ preparation }) => preparation === 'ready'));
const { model, loading, storeys } = usePlanModel(
  () => project.projectId,
  () => (tab.value === 'plan' ? (planModel.value ?? planFirst.value) : undefined),
);
/** The model that most is run into: walls and columns make a plan. */
const planFirst = computed(() => {
  const counts = new Map<string, number>();
  for (const { a, b } of shown.value)
    for (const one of [a, b])
      if (/Wall|Column|Slab/.test(one.class)) counts.set(one.containerId, (counts.get(one.containerId) ?? 0) + 1);
  const most = [...counts].sort(([, p], [, q]) => q - p)[0]?.[0];
  return (planModels.value.find(({ containerId }) => containerId === most) ?? planModels.value[0])?.versionId;
});
const storeyName = ref<string>();
const storey = computed(() => storeys.value.find(({ name }) => name === storeyName.value) ?? storeys.value[0]);
const onStorey = computed(() => {
  const holds = heightsOf(storeys.value, storey.value);
  return shown.value.filter(({ at }) => holds(at[2]));
});
const dots = computed(() =>
  onStorey.value.map((clash) => ({
    ...{ id: clash.id, at: [clash.at[0], clash.at[1]] as const, colour: PILE_LOOK[pileOf(clash)].colour },
    label: `Clash ${clash.number}: ${namePair(clash)}`,
  })),
);

// Over time
const trend = computed(() => (runs.value ?? []).filter(({ counts }) => counts).toReversed());
const series = computed(() =>
  (['new', 'standing', 'back', 'accepted'] as const).map((pile) => ({
    label: PILE_LOOK[pile].said,
    colour: PILE_LOOK[pile].colour,
    values: trend.value.map(({ counts }) => counts![pile]),
  })),
);

// Decisions
const mayDecide = computed(() => project.may('issues', 'add'));
const mayChange = computed(() => project.may('scene', 'add'));
const dialog = ref<'accept' | 'issue' | 'rule'>();
async function decide(what: Omit<Body<typeof decideClashes>, 'clashIds'>): Promise<void> {
  await call(decideClashes, { params: params.value, body: { ...what, clashIds: [...chosenIds.value] } });
  await again();
}
const areAccepted = computed(() => chosen.value.length > 0 && chosen.value.every(({ accepted }) => accepted));
const issue = computed(() => chosen.value.find((one) => one.issue)?.issue);
const assigneeId = computed(() => chosen.value[0]?.assignee?.id ?? null);
const picture = ref('');
function raise(): void {
  picture.value = engine.value!.picture();
  dialog.value = 'issue';
}
/** The two models, with what clashes selected in them. */
function takeViewpoint(name: string): ViewpointToAdd {
  const scene = engine.value!;
  const used = new Set(chosen.value.flatMap(({ a, b }) => [a.versionId, b.versionId]));
  scene.paint.select(chosen.value.flatMap(({ a, b }) => [a, b].flatMap((one) => elements.value.numberOf(one) ?? [])));
  return viewpointToAdd(
    name,
    scene,
    loaded.value.filter(({ versionId }) => used.has(versionId)),
  );
}
async function removeRule(): Promise<void> {
  const sure = await answered(
    ElMessageBox.confirm(
      `“${rule.value!.name}” is removed with its clashes and what was decided of them. Issues stay.`,
      'Remove the rule',
      { confirmButtonText: 'Remove the rule', cancelButtonText: 'Cancel' },
    ),
  );
  if (!sure || !(await attempt(() => call(removeClashRule, { params: params.value })))) return;
  await router.push({ name: 'clashes', params: project.params });
  await again();
  sayDone('Rule removed.');
}
async function ruleDone(id: string): Promise<void> {
  dialog.value = undefined;
  await goTo(id);
}
function saveTable(): void {
  const heads = ['No.', 'State', 'Class', 'Name', 'GlobalId', 'Model', 'Class', 'Name', 'GlobalId', 'Model'];
  const lines = [
    [...heads, 'How', 'Storey', 'x', 'y', 'z', 'Responsible', 'Issue'],
    ...shown.value.map((clash) => [
      ...[String(clash.number), PILE_LOOK[pileOf(clash)].said],
      ...[clash.a, clash.b].flatMap((one) => [one.class, one.name, one.globalId, titleOf(one)]),
      ...[sayClash(clash), clash.a.storey || clash.b.storey, ...clash.at.map((value) => value.toFixed(3))],
      ...[clash.assignee?.name ?? '', clash.issue ? String(clash.issue.number) : ''],
    ]),
  ].map((line) => csvLine(line));
  saveBlob(new Blob(['\ufeff', ...lines], { type: 'text/csv;charset=utf-8' }), `Clashes ${rule.value!.name}.csv`);
}
useEventListener('keydown', (event: KeyboardEvent) => {
  if (dialog.value || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
  const acts: Record<string, () => void> = {
    ArrowDown: () => step(1),
    ArrowUp: () => step(-1),
    e: lookAt,
    h: () => engine.value?.home(),
    Escape: () => choose([]),
  };
  const act = acts[event.key];
  if (!act) return;
  event.preventDefault();
  act();
});
</script>

<template>
  <CompareLayout heading="Clashes" side="Clashes" :said="`${shown.length} shown`">
    <template #side>
      <div class="left">
        <div class="rule">
          <el-select v-if="rules?.length" :model-value="ruleId" aria-label="Rule" @update:model-value="goTo"
            ><el-option v-for="one in rules" :key="one.id" :value="one.id" :label="one.name"
              >{{ one.name }} <span class="quiet">{{ one.federation }}</span></el-option
            ></el-select
          >
          <p v-if="rule" class="quiet" role="status">
            {{ ranWhen }}
            <button v-if="isRunning" class="button-link" @click="stop">Stop</button>
            <button v-else class="button-link" @click="start">Run again</button>
          </p>
          <p v-if="run?.note" class="sign caution full">{{ run.note }}</p>
        </div>
        <ClashList
          v-if="clashes.length"
          data-help="clashes/list"
          v-model:piles="piles"
          v-model:words="words"
          v-model:by="by"
          :all="clashes"
          :shown="shown"
          :groups="groups ?? []"
          :chosen="chosenIds"
          @choose="choose"
        />
        <p v-else-if="rule && !isRunning" class="nothing">No clash was found.</p>
        <p v-if="between" class="nothing">
          Only between {{ between.join(' and ') }}
          <button class="button-link" @click="between = null">All again</button>
        </p>
      </div>
    </template>
    <template #head>
      <ListTabs
        :lists="TABS"
        :list="tab"
        class="tabs"
        data-help="clashes/tabs"
        @list="set({ as: $event === 'scene' ? undefined : $event })"
      />
      <span class="spread" />
      <template v-if="rule && mayChange">
        <button class="button-link" @click="dialog = 'rule'">The rule</button>
        <button class="button-link" @click="removeRule">Remove it</button>
      </template>
      <RouterLink
        v-if="rule"
        :to="{ name: 'federations', params: project.params, query: { federation: rule.federationId } }"
        >{{ rule.federation }}</RouterLink
      >
    </template>
    <template #default>
      <EmptyPlace v-if="rules && !rules.length" title="No rule of clashes yet" style="margin: 40px"
        >A rule belongs to a federation: make one, then say what must not run into what. It runs by itself whenever a
        model is shared.
        <template #step
          ><RouterLink :to="{ name: 'federations', params: project.params }">To the federations</RouterLink></template
        ></EmptyPlace
      >
      <div v-else class="work">
        <BesideStage
          v-if="tab === 'scene'"
          :project-id="project.projectId"
          name="Clashes in the scene"
          :version-ids="openVersions"
          @ready="engine = $event"
          @loaded="loaded = [...$event]"
          @click="click"
        />
        <ClashTable
          v-else-if="tab === 'table'"
          :clashes="shown"
          :chosen="[...chosenIds][0]"
          @choose="chooseOne"
          @save="saveTable"
        />
        <ClashMatrix
          v-else-if="tab === 'matrix'"
          :clashes="shown"
          :side-of="sideOf"
          @choose="(a, b) => (between = [a, b])"
        />
        <div v-else-if="tab === 'trend'" class="trend">
          <ChartFigure
            v-if="trend.length"
            kind="bar"
            stacked
            :labels="trend.map(({ askedAt }) => day(askedAt))"
            :series="series"
            unit="clashes"
          />
          <p v-else class="quiet">No run has come to its end yet.</p>
        </div>
        <div v-else class="plan">
          <p class="row">
            <select
              :value="planModel ?? planFirst"
              aria-label="Model of the plan"
              @change="planModel = ($event.target as HTMLSelectElement).value"
            >
              <option v-for="one in planModels" :key="one.versionId" :value="one.versionId">
                {{ one.title || one.code }}
              </option>
            </select>
            <select
              :value="storey?.name"
              aria-label="Storey"
              @change="storeyName = ($event.target as HTMLSelectElement).value"
            >
              <option v-for="one in storeys" :key="one.node" :value="one.name">{{ one.name }}</option>
            </select>
            <span class="quiet">{{ loading ? 'Opening the model …' : `${onStorey.length} of them here` }}</span>
          </p>
          <StoreyDots
            v-if="model"
            label="Clashes on the storey, from above"
            :elements="elementsOfStorey(model, storey)"
            :dots="dots"
            :chosen="[...chosenIds][0]"
            @choose="chooseOne"
          />
        </div>
        <ClashDetails
          v-if="chosen.length"
          class="beside"
          data-help="clashes/decide"
          :title="title"
          :clashes="chosen"
          :model-of="titleOf"
        >
          <template #acts>
            <div class="acts">
              <RouterLink v-if="issue" :to="{ name: 'issue', params: { ...project.params, issueId: issue.id } }"
                >Issue {{ issue.number }}, {{ issue.status }}</RouterLink
              >
              <button
                v-else-if="mayDecide && engine && loaded.length && tab === 'scene'"
                class="button-link"
                @click="raise"
              >
                Raise an issue from {{ chosen.length === 1 ? 'it' : 'them' }}
              </button>
              <button class="button-link" @click="lookAt">Look at it (E)</button>
              <template v-if="mayDecide">
                <button v-if="!areAccepted" class="button-link" @click="dialog = 'accept'">Accept</button>
                <button v-else class="button-link" @click="attempt(() => decide({ accepted: null }))">
                  Take up again
                </button>
              </template>
            </div>
            <label v-if="mayDecide" class="field"
              ><span>Responsible</span
              ><PersonSelect
                :model-value="assigneeId"
                :members="people.members"
                placeholder="nobody yet"
                @update:model-value="attempt(() => decide({ assigneeId: ($event as string) || null }))"
            /></label>
          </template>
        </ClashDetails>
      </div>
      <AcceptDialog
        v-if="dialog === 'accept'"
        :count="chosen.length"
        :run="(accepted) => decide({ accepted })"
        @close="dialog = undefined"
      />
      <RaiseIssueDialog
        v-if="dialog === 'issue'"
        :picture="picture"
        :about="title"
        type="clash"
        :take-viewpoint="takeViewpoint"
        :things="rule ? [{ type: 'clash rule', id: rule.id }] : []"
        :raised="(issueId: string) => decide({ issueId })"
        @close="dialog = undefined"
      />
      <RuleDialog
        v-if="dialog === 'rule' && rule"
        :federation-id="rule.federationId"
        :rule="rule"
        @close="dialog = undefined"
        @done="ruleDone"
      />
    </template>
    <template #foot>
      <label v-if="tab === 'scene'" class="quiet"
        >What does not clash
        <select v-model="rest" class="rest">
          <option v-for="(word, name) in UNCHANGED" :key="name" :value="name">{{ word }}</option>
        </select></label
      >
      <span class="spread" />
      <span class="quiet hint">↑ ↓ one after the other · E looks at it · H all of it</span>
    </template>
  </CompareLayout>
</template>

<style scoped>
.left {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.rule {
  padding: 10px 12px 0;
}
.rule p {
  margin: 6px 0;
}
.nothing {
  margin: 10px 12px;
}
.tabs {
  border: 0;
}
.tabs :deep(button) {
  padding: 0 12px;
}
.work {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
}
.beside {
  width: 280px;
  border-left: 1px solid var(--hairline);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 10px 0;
}
.trend {
  padding: 16px;
}
.trend :deep(figure) {
  height: 320px;
}
.plan {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.plan .row {
  gap: 10px;
  margin: 8px 12px;
}
.rest,
.plan select {
  font: inherit;
  min-height: 28px;
}
@media (max-width: 700px) {
  .work {
    display: flex;
    flex-direction: column;
  }
  .work > * {
    flex: 1;
  }
  .work > .beside {
    flex: none;
    width: auto;
    max-height: 36vh;
    border-left: 0;
    border-top: 1px solid var(--hairline);
  }
  .hint {
    display: none;
  }
}
</style>
