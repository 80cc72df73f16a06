<script setup lang="ts">
/** Where issues lie: on a sheet, or on a storey seen from above. */
import { listIssues, type Issue } from '@kindred/contract/issues/issues';
import { downloadVersion, listCurrentVersions } from '@kindred/contract/register/register';
import { listViewpoints } from '@kindred/contract/scene/scene';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { heightsOf } from '@kindred/core/plan/storey-plan';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useOpenSheet } from '../drawing/open-sheet.ts';
import SheetTable from '../drawing/table/SheetTable.vue';
import { toWindow, type SheetView } from '../drawing/table/view.ts';
import { elementsOfStorey, usePlanModel } from '../plan/plan-model.ts';
import StoreyDots from '../plan/StoreyDots.vue';
import { addressOf, call } from '../platform/api.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { usePages } from '../platform/pages.ts';
import { useProject } from '../portfolio/store.ts';
import { useRelated } from '../things/related.ts';
import type { IssueViewState } from './issue-view.ts';

const props = defineProps<{ view: IssueViewState }>();
const project = useProject();
const related = useRelated();
const router = useRouter();
const { items: issues, loaded } = usePages(
  () => [project.projectId, 'issue', 'map', props.view.filters.value],
  (after) =>
    call(listIssues, {
      params: project.params,
      query: { ...props.view.filters.value, limit: 200, ...(after && { after }) },
    }),
  { all: true },
);
const { items: viewpoints } = usePages(
  () => [project.projectId, 'viewpoint', 'cameras'],
  (after) => call(listViewpoints, { params: project.params, query: { limit: 200, ...(after && { after }) } }),
  { all: true },
);
const byViewpoint = computed(() => new Map(viewpoints.value.map((one) => [one.id, one])));

/** Versions that something lies on, with the container that each belongs to. */
const AT_ONCE = 100;
const usedVersions = computed(() => [
  ...new Set(
    issues.value.flatMap(({ place, viewpointId }) => [
      ...(place ? [place.versionId] : []),
      ...(byViewpoint.value.get(viewpointId ?? '')?.versionIds ?? []),
    ]),
  ),
]);
const { data: versions } = useQuery({
  key: () => [project.projectId, 'container', 'of issues', usedVersions.value] as never,
  async query() {
    const found = [];
    for (let i = 0; i < usedVersions.value.length; i += AT_ONCE)
      found.push(
        ...(await call(listCurrentVersions, {
          params: project.params,
          query: { versionIds: usedVersions.value.slice(i, i + AT_ONCE).join() },
        })),
      );
    return new Map(found.map((one) => [one.versionId, one]));
  },
  enabled: () => usedVersions.value.length > 0,
});

interface Ground {
  key: string;
  word: string;
  kind: 'sheet' | 'model';
  /** The version that is current. */
  versionId: string;
  fileKind: 'drawing' | 'image';
  page: number;
  issues: Issue[];
}
/** Sheets and models that something lies on, those with the most first. */
const grounds = computed((): Ground[] => {
  const found = new Map<string, Ground>();
  const add = (key: string, ground: () => Omit<Ground, 'key' | 'issues'>, issue: Issue): void => {
    const one = found.get(key) ?? found.set(key, { key, issues: [], ...ground() }).get(key)!;
    one.issues.push(issue);
  };
  for (const issue of issues.value) {
    const { place, viewpointId } = issue;
    const drawn = place?.page ? versions.value?.get(place.versionId) : undefined;
    if (drawn && place?.page && (drawn.kind === 'drawing' || drawn.kind === 'image')) {
      const { page } = place;
      const fileKind = drawn.kind;
      add(
        `${drawn.containerId}/${page}`,
        () => ({
          ...{ kind: 'sheet', versionId: drawn.current.versionId, fileKind, page },
          word: page > 1 ? `${drawn.title}, page ${page}` : drawn.title,
        }),
        issue,
      );
    }
    for (const id of byViewpoint.value.get(viewpointId ?? '')?.versionIds ?? []) {
      const model = versions.value?.get(id);
      if (model)
        add(
          model.containerId,
          () => ({
            kind: 'model',
            word: model.title,
            versionId: model.current.versionId,
            fileKind: 'drawing',
            page: 1,
          }),
          issue,
        );
    }
  }
  return [...found.values()].sort((a, b) => b.issues.length - a.issues.length);
});
const ground = computed(() => grounds.value.find(({ key }) => key === props.view.query('ground')) ?? grounds.value[0]);

// On a sheet
const { source, broken } = useOpenSheet(() => {
  const open = ground.value;
  if (open?.kind !== 'sheet') return null;
  const { versionId, fileKind } = open;
  return { versionId, kind: fileKind, url: addressOf(downloadVersion, { ...project.params, versionId }) };
});
const sheetView = ref<SheetView | null>(null);

// In a model
const { model, loading, storeys } = usePlanModel(
  () => project.projectId,
  () => (ground.value?.kind === 'model' ? ground.value.versionId : undefined),
);
const targetOf = ({ viewpointId }: Issue) => byViewpoint.value.get(viewpointId ?? '')?.camera.target;
const storey = computed(() => {
  const named = storeys.value.find(({ name }) => name === props.view.query('storey'));
  if (named) return named;
  const count = (one: (typeof storeys.value)[number]): number => {
    const holds = heightsOf(storeys.value, one);
    return (ground.value?.issues ?? []).filter((issue) => holds(targetOf(issue)?.[2] ?? NaN)).length;
  };
  return [...storeys.value].sort((a, b) => count(b) - count(a))[0];
});
const dots = computed(() => {
  const holds = heightsOf(storeys.value, storey.value);
  return (ground.value?.issues ?? []).flatMap((issue) => {
    const target = targetOf(issue);
    if (!target || !holds(target[2])) return [];
    return [{ id: issue.id, at: [target[0], target[1]] as const, label: labelOf(issue), colour: colourOf(issue) }];
  });
});
const labelOf = ({ number, title, status }: Issue): string => `Issue ${number}: ${title}, ${status}`;
const COLOURS = { open: '#b4502d', 'in hand': '#8f5e0b', answered: '#3f6188' } as const;
const colourOf = ({ status }: Issue): string =>
  PENDING_ISSUE_STATUSES.includes(status) ? COLOURS[status as keyof typeof COLOURS] : '#57646a';
const chosen = ref<string>();
const one = computed(() => issues.value.find(({ id }) => id === chosen.value));
function choose(id: string): void {
  chosen.value = id;
  related.select({ type: 'issue', id });
}
const open = (id: string) => router.push({ name: 'issue', params: { ...project.params, issueId: id } });
</script>

<template>
  <EmptyPlace v-if="loaded && !grounds.length" title="Nothing lies anywhere"
    >None of the issues that fit has a place on a sheet or in a model.</EmptyPlace
  >
  <div v-else class="map" data-help="issues/map">
    <nav aria-label="Sheets and models">
      <button
        v-for="each in grounds"
        :key="each.key"
        :aria-current="each.key === ground?.key"
        @click="view.set({ ground: each.key, storey: undefined })"
      >
        <span>{{ each.word }}</span> <span class="mono quiet">{{ each.issues.length }}</span>
      </button>
    </nav>
    <div class="ground">
      <template v-if="ground?.kind === 'sheet'">
        <p v-if="broken" class="sign needs-you full">{{ broken }}</p>
        <SheetTable v-if="source" :key="ground.key" v-model:view="sheetView" :source="source" :page="ground.page" pans>
          <template #default="{ view: shown }">
            <button
              v-for="issue in ground.issues"
              :key="issue.id"
              class="pin"
              :class="{ chosen: issue.id === chosen }"
              :style="{
                left: `${toWindow(shown, [issue.place!.x, issue.place!.y])[0]}px`,
                top: `${toWindow(shown, [issue.place!.x, issue.place!.y])[1]}px`,
                background: colourOf(issue),
              }"
              :aria-label="labelOf(issue)"
              @click="choose(issue.id)"
              @dblclick="open(issue.id)"
            >
              {{ issue.number }}
            </button>
          </template>
        </SheetTable>
      </template>
      <template v-else-if="ground">
        <p class="row storeys">
          <select
            :value="storey?.name"
            aria-label="Storey"
            @change="view.set({ storey: ($event.target as HTMLSelectElement).value })"
          >
            <option v-for="each in storeys" :key="each.node" :value="each.name">{{ each.name }}</option>
          </select>
          <span class="quiet">{{ loading ? 'Opening the model …' : `${dots.length} of them here` }}</span>
        </p>
        <div class="plan">
          <StoreyDots
            v-if="model"
            label="Issues on the storey, from above"
            :elements="elementsOfStorey(model, storey)"
            :dots="dots"
            :chosen="chosen"
            @choose="choose"
          />
        </div>
      </template>
      <div v-if="one" class="chosen-one" role="status">
        <span class="mono">{{ one.number }}</span> <b>{{ one.title }}</b> <span class="quiet">{{ one.status }}</span>
        <span class="spread" />
        <button class="button-link" @click="open(one.id)">Open</button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.map {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
  gap: 14px;
  height: calc(100vh - 230px);
  min-height: 360px;
}
nav {
  overflow-y: auto;
  display: grid;
  align-content: start;
}
nav button {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 6px 8px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  text-align: left;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
nav button[aria-current='true'] {
  background: var(--action-wash);
}
.ground {
  position: relative;
  display: flex;
  flex-direction: column;
  min-height: 0;
  border: 1px solid var(--hairline);
  background: #fff;
}
.ground > :first-child:not(.storeys) {
  flex: 1;
  min-height: 0;
}
.plan {
  flex: 1;
  min-height: 0;
}
.storeys {
  padding: 6px 10px;
  margin: 0;
}
.pin {
  position: absolute;
  transform: translate(-50%, -50%);
  min-width: 24px;
  height: 24px;
  border: 2px solid #fff;
  border-radius: 12px;
  color: #fff;
  font: 600 11px var(--mono);
  cursor: pointer;
}
.pin.chosen {
  outline: 2px solid var(--ink);
}
.chosen-one {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 8px 12px;
  background: var(--paper);
  border-top: 1px solid var(--hairline);
}
@media (max-width: 700px) {
  .map {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(300px, 1fr);
  }
  nav {
    max-height: 120px;
  }
}
</style>
