<script setup lang="ts">
import { listSheetRegister } from '@kindred/contract/drawing/drawing';
import { listViewpoints } from '@kindred/contract/scene/scene';
import {
  addShareSet,
  changeShareSet,
  listShareSets,
  removeShareSet,
  type ShareSet,
} from '@kindred/contract/register/share-sets';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { usePeople } from '../people/store.ts';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

/** Named choices of sheets and viewpoints: what others see of what is shared with them. */
const project = useProject();
const people = usePeople();
const { data: sets, refetch } = useQuery({
  key: () => [project.projectId, 'share set'],
  query: () => call(listShareSets, { params: project.params }),
});
// What can be chosen is all there is.
const { items: sheets } = usePages(
  () => [project.projectId, 'container', 'sheet register', 'to choose'],
  (after) => call(listSheetRegister, { params: project.params, query: { limit: 200, ...(after && { after }) } }),
  { all: true },
);
const { items: viewpoints } = usePages(
  () => [project.projectId, 'viewpoint', 'to choose'],
  async (after) =>
    project.may('scene', 'see')
      ? call(listViewpoints, { params: project.params, query: { limit: 200, ...(after && { after }) } })
      : { items: [], next: null },
  { all: true },
);
const numbers = computed(() => [
  ...new Map(sheets.value.filter(({ number }) => number).map(({ number, title }) => [number, title])),
]);
const teams = computed(() => people.data?.teams ?? []);
const teamName = (id: string): string => teams.value.find((team) => team.id === id)?.name ?? '';
const viewpointName = (id: string): string => viewpoints.value.find((one) => one.id === id)?.name ?? 'a viewpoint';

type Draft = Pick<ShareSet, 'name' | 'teamId' | 'sheetNumbers' | 'viewpointIds'> & { id?: string; edition?: number };
const draft = ref<Draft | null>(null);
const begin = (): void =>
  void (draft.value = {
    name: '',
    teamId: project.view?.me.teamId ?? teams.value[0]?.id ?? '',
    sheetNumbers: [],
    viewpointIds: [],
  });
async function save(): Promise<void> {
  const { id, edition, teamId, ...wanted } = draft.value!;
  const done = await attempt(() =>
    id
      ? call(changeShareSet, {
          params: { ...project.params, shareSetId: id },
          body: { ...wanted, edition: edition! },
        })
      : call(addShareSet, { params: project.params, body: { ...wanted, teamId } }),
  );
  await refetch();
  if (!done) return;
  draft.value = null;
  sayDone(
    id
      ? 'Kept. It holds at once for all that is shared with it; the copies for others are made anew.'
      : 'Kept. Choose it when you share drawings and models.',
  );
}
async function remove({ id }: ShareSet): Promise<void> {
  await attempt(() => call(removeShareSet, { params: { ...project.params, shareSetId: id } }));
  await refetch();
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Share sets</h1>
      <span class="quiet">Which sheets and viewpoints others get to see when a drawing or model is shared.</span>
      <span class="spread" />
      <el-button type="primary" @click="begin">New share set</el-button>
    </div>
    <EmptyPlace v-if="sets && !sets.length" title="Others see all sheets of what is shared"
      >Name a choice of sheets and viewpoints, and choose it when you share: the other sheets stay blank to
      others.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th>Share set</th>
          <th>Team</th>
          <th>Sheets</th>
          <th>Viewpoints</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="set in sets" :key="set.id">
          <td>
            <b>{{ set.name }}</b>
          </td>
          <td>{{ teamName(set.teamId) }}</td>
          <td class="mono">{{ set.sheetNumbers.join(', ') || 'none' }}</td>
          <td>{{ set.viewpointIds.map(viewpointName).join(', ') || 'none' }}</td>
          <td class="right">
            <button class="button-link" @click="draft = { ...set }">Change</button> ·
            <button class="button-link" @click="remove(set)">Remove</button>
          </td>
        </tr>
      </tbody>
    </table>
    <AppDialog v-if="draft" title="Share set" :width="560" @close="draft = null">
      <label class="field"
        >Name <el-input v-model="draft.name" maxlength="80" placeholder="Plans for the structure" aria-label="Name"
      /></label>
      <label class="field"
        >Team
        <el-select v-model="draft.teamId" :disabled="Boolean(draft.id)" aria-label="Team"
          ><el-option v-for="team in teams" :key="team.id" :value="team.id" :label="team.name" /></el-select
      ></label>
      <label class="field"
        >Sheets that others see
        <el-select
          v-model="draft.sheetNumbers"
          multiple
          filterable
          default-first-option
          allow-create
          placeholder="Numbers of sheets"
          aria-label="Sheets"
          ><el-option v-for="[number, title] in numbers" :key="number" :value="number" :label="number"
            ><span class="mono">{{ number }}</span> {{ title }}</el-option
          ></el-select
        ></label
      >
      <label class="field"
        >Viewpoints that others see
        <el-select
          v-model="draft.viewpointIds"
          multiple
          filterable
          default-first-option
          placeholder="None"
          aria-label="Viewpoints"
          ><el-option v-for="one in viewpoints" :key="one.id" :value="one.id" :label="one.name" /></el-select
      ></label>
      <p v-if="draft.id" class="quiet">What is shared with it already changes at once: others see what stands here.</p>
      <template #footer>
        <el-button @click="draft = null">Cancel</el-button>
        <el-button type="primary" :disabled="!draft.name.trim()" @click="save">Keep</el-button>
      </template>
    </AppDialog>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: 4px;
  margin-bottom: 10px;
}
</style>
