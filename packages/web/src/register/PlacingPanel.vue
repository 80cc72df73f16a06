<script setup lang="ts">
import type { Container } from '@kindred/contract/register/register';
import { ChevronDown } from '@lucide/vue';
import { computed, defineAsyncComponent, ref } from 'vue';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from './folders-store.ts';

/** What is done more rarely with containers: moved, called otherwise, taken out of the register. */
const props = defineProps<{ containers: Container[] }>();
const emit = defineEmits<{ done: []; removed: [] }>();
const project = useProject();
const folders = useFolders();
const ACTS = {
  move: 'Move …',
  code: 'Repair the code …',
  remove: 'Put into the bin …',
};
type Act = keyof typeof ACTS;
const doing = ref<Act | null>(null);
const DIALOGS = {
  move: defineAsyncComponent(() => import('./MoveContainersDialog.vue')),
  code: defineAsyncComponent(() => import('./ChangeCodeDialog.vue')),
  remove: defineAsyncComponent(() => import('./RemoveContainersDialog.vue')),
};
const open = computed(() => {
  const inRegister = props.containers.every(({ atIntake, state }) => !atIntake && state !== 'archived');
  if (!inRegister) return [];
  return [
    ...(project.may('register', 'change') && folders.list.length > 1 ? (['move'] as const) : []),
    ...(project.may('register', 'manage') && props.containers.length === 1 ? (['code'] as const) : []),
    ...(project.may('register', 'delete') ? (['remove'] as const) : []),
  ] satisfies Act[];
});
function done(): void {
  const act = doing.value;
  doing.value = null;
  if (act === 'remove') emit('removed');
  else emit('done');
}
</script>

<template>
  <el-dropdown v-if="open.length" trigger="click" @command="doing = $event as Act">
    <el-button size="small">More <ChevronDown :size="14" style="margin-left: 4px" /></el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="act in open" :key="act" :command="act">{{ ACTS[act] }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
  <component
    :is="DIALOGS[doing]"
    v-if="doing"
    :containers="containers"
    :container="containers[0]!"
    @close="doing = null"
    @done="done"
  />
</template>
