<script setup lang="ts">
import { downloadVersions, reserveContainers, type Container } from '@kindred/contract/register/register';
import { actionsFrom } from '@kindred/core/register/may-change';
import type { ContainerAction } from '@kindred/core/register/states';
import { X } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { addressOf, call } from '../platform/api.ts';
import { handOver } from '../platform/handed-over.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { bytes } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import EditManyDialog from './EditManyDialog.vue';
import MoveStatesDialog from './MoveStatesDialog.vue';
import PlacingPanel from './PlacingPanel.vue';

/** What can be done with the containers that are chosen. */
const props = defineProps<{ containers: Container[] }>();
const emit = defineEmits<{ clear: [] }>();
const project = useProject();
const router = useRouter();
const moving = ref<ContainerAction | null>(null);
const editing = ref(false);

const MOST_FILES = 500;
const models = computed(() =>
  props.containers.filter(({ kind, preparation }) => kind === 'model' && preparation === 'ready'),
);
const actions = computed(() => [
  ...new Set(props.containers.flatMap(({ state }) => actionsFrom(state, project.may('register', 'manage')))),
]);
const size = computed(() => props.containers.reduce((sum, container) => sum + container.size, 0));
const versionIds = computed(() => props.containers.map(({ versionId }) => versionId));
const zip = computed(
  () =>
    `${addressOf(downloadVersions, project.params)}?${new URLSearchParams({ versionIds: versionIds.value.join() })}`,
);
const reserved = computed(() => props.containers.every(({ reservedBy }) => reservedBy));
const capital = (word: string): string => word[0]!.toUpperCase() + word.slice(1);

const go = (name: string, query: Record<string, string>) => router.push({ name, params: project.params, query });
async function reserve(): Promise<void> {
  const body = { containerIds: props.containers.map(({ id }) => id), reserve: !reserved.value };
  if (await attempt(() => call(reserveContainers, { params: project.params, body })))
    sayDone(body.reserve ? 'Reserved for you: others see it, and cannot add to the line.' : 'Released.');
}
</script>

<template>
  <div class="chosen" role="toolbar" aria-label="With those chosen">
    <b>{{ containers.length }} chosen</b>
    <el-button
      v-if="models.length"
      size="small"
      @click="go('scene', { models: models.map(({ versionId }) => versionId).join(',') })"
      >Open {{ models.length }} in the scene</el-button
    >
    <template v-if="project.may('register', 'change')">
      <el-button v-for="action in actions" :key="action" size="small" @click="moving = action">{{
        capital(action)
      }}</el-button>
      <el-button size="small" @click="editing = true">Change values</el-button>
    </template>
    <el-button v-if="project.may('register', 'add')" size="small" @click="reserve">{{
      reserved ? 'Release' : 'Reserve'
    }}</el-button>
    <a v-if="containers.length <= MOST_FILES" :href="zip" download class="el-button el-button--small"
      >Download, {{ bytes(size) }}</a
    >
    <el-button v-if="project.may('review', 'add')" size="small" @click="go('reviews', { start: handOver(versionIds) })"
      >Review</el-button
    >
    <el-button
      v-if="project.may('transmittal', 'add')"
      size="small"
      @click="go('transmittals', { send: handOver(versionIds) })"
      >Send</el-button
    >
    <PlacingPanel :containers="containers" @done="emit('clear')" @removed="emit('clear')" />
    <span class="spread" />
    <button class="button-link" aria-label="Choose none" @click="emit('clear')"><X :size="15" /></button>
    <MoveStatesDialog
      v-if="moving"
      :containers="containers"
      :action="moving"
      @close="moving = null"
      @done="((moving = null), emit('clear'))"
    />
    <EditManyDialog
      v-if="editing"
      :containers="containers"
      @close="editing = false"
      @done="((editing = false), emit('clear'))"
    />
  </div>
</template>

<style scoped>
.chosen {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 6px 14px;
  background: var(--action-wash);
  border-top: 1px solid var(--hairline);
}
.chosen :deep(.el-button + .el-button) {
  margin-left: 0;
}
a:hover {
  text-decoration: none;
}
</style>
