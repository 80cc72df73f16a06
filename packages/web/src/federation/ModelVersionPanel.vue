<script setup lang="ts">
/** Which version of a model takes part: the newest, or one that it is held at. */
import { pinModel, type FederatedModel } from '@kindred/contract/federation/federations';
import { showContainer } from '@kindred/contract/register/register';
import { useQueryCache } from '@pinia/colada';
import { ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ federationId: string; model: FederatedModel; mayChange: boolean }>();
const project = useProject();
const cache = useQueryCache();
/** Nothing would be no choice to the list. */
const NEWEST = 'newest';
const versions = ref<{ id: string; number: number; revision: string }[]>([]);
/** Asked for when somebody wants to choose. */
async function offer(isOpen: boolean): Promise<void> {
  if (!isOpen || versions.value.length) return;
  const params = { ...project.params, containerId: props.model.containerId };
  await attempt(async () => {
    versions.value = (await call(showContainer, { params })).versions.filter(({ kind }) => kind === 'model');
  });
}
const choose = (versionId: string): Promise<boolean> =>
  attempt(async () => {
    await call(pinModel, {
      params: { ...project.params, federationId: props.federationId, containerId: props.model.containerId },
      body: { versionId: versionId === NEWEST ? null : versionId },
    });
    await cache.invalidateQueries({ key: [project.projectId, 'container', 'federation'] });
  });
const label = ({ number, revision }: { number: number; revision: string }): string => `Version ${number} · ${revision}`;
</script>

<template>
  <el-select
    v-if="mayChange"
    :model-value="model.pinned ? model.versionId : NEWEST"
    size="small"
    style="width: 190px"
    :aria-label="`Version of ${model.code}`"
    @visible-change="offer"
    @update:model-value="choose"
  >
    <el-option :value="NEWEST" :label="model.pinned ? 'Follow the newest' : `Newest, version ${model.number}`" />
    <el-option
      v-if="model.pinned && !versions.length"
      :value="model.versionId"
      :label="`Held at version ${model.number}`"
    />
    <el-option v-for="one in versions" :key="one.id" :value="one.id" :label="label(one)" />
  </el-select>
  <span v-else>{{ model.pinned ? `held at version ${model.number}` : `version ${model.number}` }}</span>
  <small v-if="model.pinned && model.newest.number > model.number" class="quiet">
    version {{ model.newest.number }} is there</small
  >
</template>
