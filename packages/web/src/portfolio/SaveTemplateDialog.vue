<script setup lang="ts">
import { saveTemplate, TEMPLATE_PARTS, type TemplatePart } from '@kindred/contract/portfolio/templates';
import { reactive } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sayDone } from '../platform/say.ts';
import { useProject } from './store.ts';

const emit = defineEmits<{ close: [] }>();
const project = useProject();
const form = reactive({
  name: `As ${project.view?.project.name ?? ''}`.slice(0, 80),
  description: '',
  parts: [...TEMPLATE_PARTS] as TemplatePart[],
  forAll: false,
});
const WORDS: Record<TemplatePart, string> = {
  roles: 'Roles',
  teams: 'Teams with their colours',
  folders: 'Folder tree',
  permissions: 'Folder permissions of roles and teams',
  conventions: 'Naming conventions',
  schemes: 'Status, revision and classification codes',
  routes: 'Review routes and return codes',
  issues: 'Types, priorities and labels of issues',
};
async function save(): Promise<void> {
  const name = form.name.trim();
  await call(saveTemplate, { params: project.params, body: { ...form, name } });
  sayDone(`“${name}” is offered when a project is begun.`);
}
const turn = (part: TemplatePart, on: boolean): void => {
  form.parts = TEMPLATE_PARTS.filter((one) => (one === part ? on : form.parts.includes(one)));
};
</script>

<template>
  <FormDialog
    title="Save as template"
    verb="Save template"
    :width="500"
    :ready="form.name.trim() !== '' && form.parts.length > 0"
    :run="save"
    @close="emit('close')"
  >
    <label class="field"><span>Name</span><el-input v-model="form.name" maxlength="80" /></label>
    <label class="field"><span>What it is for</span><el-input v-model="form.description" maxlength="400" /></label>
    <fieldset class="parts">
      <legend class="quiet">It carries</legend>
      <el-checkbox
        v-for="part in TEMPLATE_PARTS"
        :key="part"
        :model-value="form.parts.includes(part)"
        :label="WORDS[part]"
        @change="turn(part, Boolean($event))"
      />
    </fieldset>
    <p class="quiet">
      What it does not carry, a project begun from it takes from the building starter. People, companies and files are
      never carried.
    </p>
    <el-checkbox v-model="form.forAll">Offer it to everybody of this installation, not to me alone</el-checkbox>
  </FormDialog>
</template>

<style scoped>
.parts {
  border: 0;
  padding: 0;
  margin: 0 0 8px;
  display: grid;
}
</style>
