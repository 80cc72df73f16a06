<script setup lang="ts">
import {
  describeContainer,
  downloadProduct,
  downloadVersion,
  moveState,
  prepareAgain,
  showContainer,
} from '@kindred/contract/register/register';
import { actionsIn } from '@kindred/core/platform/machine';
import { containerTransitions, type ContainerAction } from '@kindred/core/register/states';
import { Download } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { computed, watchEffect } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import { useKin } from '../frame/kin.ts';
import HistoryList from '../frame/HistoryList.vue';
import { useNaming } from '../naming/store.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { addressOf, call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { bytes, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { openingOf } from './opening.ts';
import { PREPARATION_SIGNS, STATE_SIGNS } from './signs.ts';

const project = useProject();
const naming = useNaming();
const kin = useKin();
const time = useTime();
const route = useRoute();
const containerId = computed(() => String(route.params.containerId));
const params = computed(() => ({ ...project.params, containerId: containerId.value }));
const { data, error, refetch } = useQuery({
  key: () => [project.projectId, 'container', containerId.value],
  query: () => call(showContainer, { params: params.value }),
});
watchEffect(() => kin.select({ type: 'container', id: containerId.value }));

const actions = computed(() =>
  data.value && project.may('register', 'change') && !data.value.container.atIntake
    ? actionsIn(containerTransitions, data.value.container.state)
    : [],
);
async function move(action: ContainerAction): Promise<void> {
  let reason: string | undefined;
  if (action === 'withdraw') {
    const answer = await ElMessageBox.prompt('Others may be using it. Say why it is withdrawn.', 'Withdraw', {
      confirmButtonText: 'Withdraw',
      cancelButtonText: 'Leave it',
    }).catch(() => null);
    if (!answer) return;
    reason = answer.value;
  }
  await attempt(() =>
    call(moveState, { params: params.value, body: { action, ...(reason !== undefined && { reason }) } }),
  );
  await refetch();
}
async function describe(): Promise<void> {
  const answer = await ElMessageBox.prompt('Title of this container', 'Title', {
    inputValue: data.value?.container.title,
    confirmButtonText: 'Save',
    cancelButtonText: 'Leave it',
  }).catch(() => null);
  if (!answer) return;
  await attempt(() => call(describeContainer, { params: params.value, body: { title: answer.value } }));
  await refetch();
}
async function tryAgain(versionId: string): Promise<void> {
  await attempt(() => call(prepareAgain, { params: { ...project.params, versionId } }));
}
const fileOf = (versionId: string): string => addressOf(downloadVersion, { ...project.params, versionId });
const thumbnailOf = (versionId: string): string =>
  addressOf(downloadProduct, { ...project.params, versionId, product: 'thumbnail' });
</script>

<template>
  <div class="page">
    <div v-if="error" class="empty"><h2>There is no such container, or you may not see it</h2></div>
    <template v-else-if="data">
      <div class="page-head">
        <div>
          <h1 class="mono">{{ data.container.code }}</h1>
          <button class="button-link title" @click="describe">{{ data.container.title || 'Give it a title' }}</button>
        </div>
        <span :class="STATE_SIGNS[data.container.state]">{{ data.container.state }}</span>
        <span class="spread" />
        <el-button v-for="action in actions" :key="action" @click="move(action)">{{
          action[0]!.toUpperCase() + action.slice(1)
        }}</el-button>
        <RouterLink :to="openingOf(data.container, project.projectId)"
          ><el-button
            v-if="data.container.kind !== 'document'"
            type="primary"
            :disabled="data.container.preparation !== 'ready'"
            >Open</el-button
          ></RouterLink
        >
      </div>
      <h2>Lineage</h2>
      <ol class="lineage">
        <li
          v-for="version in data.versions"
          :key="version.id"
          :class="{ sought: route.query.version === String(version.number) }"
        >
          <span class="number mono">{{ version.number }}</span>
          <span class="thumb"
            ><img
              v-if="version.preparation === 'ready' && version.kind !== 'document'"
              :src="thumbnailOf(version.id)"
              alt=""
          /></span>
          <div class="about">
            <div>
              <b class="mono">{{ version.revision || 'no revision' }}</b>
              <span :title="naming.meaning(version.status)">
                · {{ version.status }} {{ naming.meaning(version.status) }}</span
              >
              <span v-if="version.classification" class="quiet">
                · {{ version.classification }} {{ naming.meaning(version.classification) }}</span
              >
            </div>
            <div class="quiet">
              {{ version.fileName }} · {{ bytes(version.size) }} · {{ time.moment(version.deliveredAt) }}
            </div>
            <div v-if="version.description">{{ version.description }}</div>
            <div :class="PREPARATION_SIGNS[version.preparation]">{{ version.preparation }}</div>
            <p v-if="version.preparationNote" class="note">
              {{ version.preparationNote }}
              <button v-if="version.preparation === 'failed'" class="button-link" @click="tryAgain(version.id)">
                Try again
              </button>
            </p>
          </div>
          <PersonBadge :person="version.deliveredBy" named />
          <a :href="fileOf(version.id)" download :aria-label="`Download version ${version.number}`"
            ><Download :size="16"
          /></a>
        </li>
      </ol>
      <h2>History</h2>
      <HistoryList type="container" :id="containerId" />
    </template>
  </div>
</template>

<style scoped>
.title {
  font-size: 14px;
  color: var(--ink);
}
.lineage {
  list-style: none;
  margin: 8px 0 22px;
  padding: 0;
  border: 1px solid var(--hairline);
  background: var(--sheet);
}
li {
  display: grid;
  grid-template-columns: 34px 104px 1fr auto 24px;
  gap: 14px;
  align-items: center;
  padding: 10px 14px;
  border-bottom: 1px solid var(--wash);
}
li.sought {
  background: var(--action-wash);
}
.number {
  font-size: 20px;
}
.thumb {
  width: 104px;
  height: 72px;
  display: grid;
  place-items: center;
  background: var(--paper);
}
.thumb img {
  max-width: 104px;
  max-height: 72px;
}
.note {
  margin: 4px 0 0;
}
</style>
