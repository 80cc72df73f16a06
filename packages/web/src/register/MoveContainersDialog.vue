<script setup lang="ts">
import { moveContainers } from '@kindred/contract/register/bin';
import type { Container } from '@kindred/contract/register/register';
import { checkName } from '@kindred/core/naming/convention';
import { counted } from '@kindred/words/sentence';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from './folders-store.ts';

/** Moves containers to another folder; says beforehand whose names would not conform there. */
const props = defineProps<{ containers: Container[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const project = useProject();
const folders = useFolders();
const folderId = ref('');
const open = computed(() =>
  folders.list.filter(({ id, level }) => level !== 'see' && props.containers.some((one) => one.folderId !== id)),
);
const wrong = computed(() => {
  const convention = folders.conventionIn(folderId.value);
  return convention ? props.containers.filter(({ code }) => !checkName(convention, code).ok) : [];
});
const changesTeam = computed(() => {
  const teamId = folders.byId.get(folderId.value)?.teamId;
  return teamId ? props.containers.filter((container) => container.teamId !== teamId).length : 0;
});

async function move(): Promise<void> {
  const body = { containerIds: props.containers.map(({ id }) => id), folderId: folderId.value };
  await call(moveContainers, { params: project.params, body });
  sayDone(`${counted(props.containers.length, 'container')} moved to ${folders.byId.get(folderId.value)?.path}.`);
  emit('done');
}
</script>

<template>
  <FormDialog
    title="Move to another folder"
    :verb="`Move ${counted(containers.length, 'container')}`"
    :ready="folderId !== '' && !wrong.length"
    :run="move"
    @close="emit('close')"
  >
    <label class="field"
      ><span>To</span
      ><el-select v-model="folderId" filterable default-first-option placeholder="which folder?" aria-label="Folder"
        ><el-option v-for="folder in open" :key="folder.id" :value="folder.id" :label="folder.path" /></el-select
    ></label>
    <p class="quiet">All versions go along; links, issues and what was sent stay as they are.</p>
    <p v-if="changesTeam" class="sign caution full">
      {{ counted(changesTeam, 'container') }} of another team will belong to the team of that folder.
    </p>
    <p v-if="wrong.length" class="sign needs-you full" role="alert">
      {{ counted(wrong.length, 'name') }} would not conform there, among them
      <span class="mono">{{ wrong[0]!.code }}</span>. Repair
      {{ wrong.length === 1 ? 'its code' : 'their codes' }} first, or choose another folder.
    </p>
  </FormDialog>
</template>
