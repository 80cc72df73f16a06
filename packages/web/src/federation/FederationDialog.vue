<script setup lang="ts">
import { addFederation, changeFederation, type Federation } from '@kindred/contract/federation/federations';
import { useQueryCache } from '@pinia/colada';
import { reactive } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from '../register/folders-store.ts';

/** Makes a federation, or changes which folder it is. */
const props = defineProps<{ federation?: Federation }>();
const emit = defineEmits<{ close: []; done: [id: string] }>();
const project = useProject();
const folders = useFolders();
const cache = useQueryCache();
const WHOLE = 'whole project';
const form = reactive({
  name: props.federation?.name ?? '',
  folder: props.federation ? (props.federation.whole ? WHOLE : (props.federation.folder?.id ?? '')) : WHOLE,
});

async function save(): Promise<void> {
  const folderId = form.folder === WHOLE ? null : form.folder;
  const { federation: saved } = props.federation
    ? await call(changeFederation, {
        params: { ...project.params, federationId: props.federation.id },
        body: { edition: props.federation.edition, name: form.name.trim(), folderId },
      })
    : await call(addFederation, { params: project.params, body: { name: form.name.trim(), folderId } });
  await cache.invalidateQueries({ key: [project.projectId, 'federation'] });
  await cache.invalidateQueries({ key: [project.projectId, 'container', 'federation'] });
  emit('done', saved.id);
}
</script>

<template>
  <FormDialog
    :title="federation ? 'Change federation' : 'New federation'"
    :verb="federation ? 'Save' : 'Make federation'"
    :ready="form.name.trim() !== '' && form.folder !== ''"
    :run="save"
    @close="emit('close')"
  >
    <label class="field"
      ><span>Name</span><el-input v-model="form.name" maxlength="80" placeholder="Design coordination" autofocus
    /></label>
    <label class="field"
      ><span>All models in</span
      ><el-select v-model="form.folder" filterable aria-label="Folder"
        ><el-option :value="WHOLE" label="the whole project" /><el-option
          v-for="folder in folders.list"
          :key="folder.id"
          :value="folder.id"
          :label="folder.path" /></el-select
    ></label>
    <p class="quiet">Folders below count too. Models that arrive later take part by themselves.</p>
  </FormDialog>
</template>
