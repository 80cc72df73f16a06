<script setup lang="ts">
/** Federations: which models are looked at as one, at which version, and which rules of clashes hold for them. */
import { removeFederation, type FederatedModel } from '@kindred/contract/federation/federations';
import { counted } from '@kindred/words/sentence';
import { Plus } from '@lucide/vue';
import { useQueryCache } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { computed, ref } from 'vue';
import { RouterLink } from 'vue-router';
import { useClashRules } from '../clash/clashes.ts';
import RuleDialog from '../clash/RuleDialog.vue';
import { sayOpen } from '../clash/words.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { answered, attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import FederationDialog from './FederationDialog.vue';
import { useFederation, useFederations } from './federations.ts';
import ModelVersionPanel from './ModelVersionPanel.vue';
import PlacesPanel from './PlacesPanel.vue';

const project = useProject();
const cache = useQueryCache();
const { query, set } = useRouteQuery();
const { data: federations } = useFederations();
const chosenId = computed(() => query('federation') || federations.value?.[0]?.id);
const { data: shown } = useFederation(() => chosenId.value);
const federation = computed(() => shown.value?.federation);
const models = computed(() => shown.value?.models ?? []);
const ready = computed(() => models.value.filter(({ preparation }) => preparation === 'ready'));
usePageSubject(() => federation.value?.name ?? 'Federations');
const { data: rules } = useClashRules();
const ownRules = computed(() => (rules.value ?? []).filter(({ federationId }) => federationId === chosenId.value));
const mayChange = computed(() => project.may('scene', 'add'));
const inScene = computed(() => ({
  name: 'scene',
  params: project.params,
  query: { models: ready.value.map(({ versionId }) => versionId).join() },
}));

const dialog = ref<'new' | 'change' | 'rule'>();
async function done(id: string): Promise<void> {
  dialog.value = undefined;
  await set({ federation: id });
}
async function remove(): Promise<void> {
  const { id, name } = federation.value!;
  const sure = await answered(
    ElMessageBox.confirm(
      `“${name}” is removed, with its rules and their clashes. Models and issues stay.`,
      'Remove federation',
      { confirmButtonText: 'Remove federation', cancelButtonText: 'Cancel' },
    ),
  );
  if (!sure) return;
  if (!(await attempt(() => call(removeFederation, { params: { ...project.params, federationId: id } })))) return;
  await cache.invalidateQueries({ key: [project.projectId, 'federation'] });
  await set({ federation: undefined });
  sayDone('Federation removed.');
}
function stateOf({ preparation, state }: FederatedModel): string {
  if (preparation === 'failed') return 'could not be prepared: left out';
  return preparation === 'ready' ? state : 'is being prepared';
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Federations</h1>
      <el-select
        v-if="(federations?.length ?? 0) > 1"
        :model-value="chosenId"
        aria-label="Federation"
        style="width: 240px"
        @update:model-value="set({ federation: $event })"
        ><el-option v-for="one in federations" :key="one.id" :value="one.id" :label="one.name"
      /></el-select>
      <span class="spread" />
      <el-button v-if="mayChange && federations?.length" @click="dialog = 'new'"
        ><Plus :size="15" style="margin-right: 5px" /> New federation</el-button
      >
    </div>
    <EmptyPlace v-if="federations && !federations.length" title="No federation yet"
      >A federation brings the models of a folder together, each at its newest version: one click opens them all, and
      rules look for clashes whenever one of them is shared.
      <template v-if="mayChange" #step
        ><el-button type="primary" @click="dialog = 'new'">Make the first federation</el-button></template
      ></EmptyPlace
    >
    <template v-if="federation">
      <div class="row about">
        <h2 v-if="federations?.length === 1">{{ federation.name }}</h2>
        <span class="quiet">{{
          federation.whole ? 'the whole project' : (federation.folder?.path ?? 'its folder is not there any more')
        }}</span>
        <RouterLink v-if="ready.length" :to="inScene"
          >Open {{ counted(ready.length, 'model') }} in the scene</RouterLink
        >
        <span class="spread" />
        <template v-if="mayChange">
          <button class="button-link" @click="dialog = 'change'">Change</button>
          <button class="button-link" @click="remove">Remove</button>
        </template>
      </div>
      <p v-if="!federation.whole && !federation.folder" class="sign caution full">
        The folder of this federation was removed, or you do not see it. Choose another one under Change.
      </p>
      <EmptyPlace v-else-if="!models.length" title="No models yet"
        >Deliver a model into {{ federation.folder?.path ?? 'any folder' }}: it takes part by itself.</EmptyPlace
      >
      <table v-else class="plain-table" data-help="federations/models">
        <thead>
          <tr>
            <th>Model</th>
            <th>Takes part with</th>
            <th>Revision</th>
            <th>State</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="model in models" :key="model.containerId">
            <td>
              <b>{{ model.title || model.code }}</b><br /><RouterLink
                class="mono"
                :to="{ name: 'container', params: { ...project.params, containerId: model.containerId } }"
                >{{ model.code }}</RouterLink
              >
            </td>
            <td><ModelVersionPanel :federation-id="federation.id" :model="model" :may-change="mayChange" /></td>
            <td class="mono">{{ model.revision }}</td>
            <td>{{ stateOf(model) }}</td>
            <td>
              <RouterLink
                v-if="model.number > 1"
                :to="{ name: 'model-changes', params: { ...project.params, containerId: model.containerId } }"
                >What changed</RouterLink
              >
            </td>
          </tr>
        </tbody>
      </table>
      <PlacesPanel
        v-if="models.length"
        data-help="federations/places"
        :federation-id="federation.id"
        :models="models"
        :may-change="mayChange"
      />
      <div class="row about">
        <h2>Clashes</h2>
        <span class="quiet">rules run whenever a version is shared</span>
        <span class="spread" />
        <button v-if="mayChange" class="button-link" @click="dialog = 'rule'">Add a rule</button>
      </div>
      <table v-if="ownRules.length" class="plain-table" data-help="federations/rules">
        <tbody>
          <tr v-for="rule in ownRules" :key="rule.id">
            <td>
              <RouterLink :to="{ name: 'clashes', params: { ...project.params, ruleId: rule.id } }">{{
                rule.name
              }}</RouterLink>
            </td>
            <td>{{ sayOpen(rule.counts) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
    <FederationDialog v-if="dialog === 'new'" @close="dialog = undefined" @done="done" />
    <FederationDialog
      v-if="dialog === 'change' && federation"
      :federation="federation"
      @close="dialog = undefined"
      @done="done"
    />
    <RuleDialog
      v-if="dialog === 'rule' && chosenId"
      :federation-id="chosenId"
      @close="dialog = undefined"
      @done="dialog = undefined"
    />
  </div>
</template>

<style scoped>
.about {
  gap: 14px;
  margin: 18px 0 8px;
  align-items: baseline;
}
</style>
