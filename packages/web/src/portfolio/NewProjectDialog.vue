<script setup lang="ts">
import { createProject, PROJECT_KINDS } from '@kindred/contract/portfolio/portfolio';
import { listTemplates, removeTemplate, type Template } from '@kindred/contract/portfolio/templates';
import { useQuery } from '@pinia/colada';
import dayjs from 'dayjs';
import { Trash2 } from '@lucide/vue';
import { reactive } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { attempt, sayDone } from '../platform/say.ts';

const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const form = reactive({ name: '', kind: '', number: '', templateId: 'building' });
const { data: templates, refetch } = useQuery({ key: ['templates'], query: () => call(listTemplates) });

async function create(): Promise<void> {
  const project = await call(createProject, { body: { ...form, timeZone: dayjs.tz.guess() } });
  await router.push({ name: 'register', params: { projectId: project.id } });
}
async function remove({ id, name }: Template): Promise<void> {
  const removed = await attempt(() => call(removeTemplate, { params: { templateId: id } }));
  if (removed) sayDone(`The template “${name}” is gone; projects that began with it stay as they are.`);
  form.templateId = 'building';
  await refetch();
}
</script>

<template>
  <FormDialog
    title="New project"
    verb="Create project"
    :ready="form.name.trim() !== '' && form.kind !== ''"
    :run="create"
    @close="emit('close')"
  >
    <label class="field"><span>Name</span><el-input v-model="form.name" maxlength="120" autofocus /></label>
    <div class="row" style="align-items: start">
      <label class="field" style="flex: 1"
        ><span>Kind</span>
        <el-select v-model="form.kind" placeholder="Choose" filterable default-first-option>
          <el-option-group v-for="(kinds, group) in PROJECT_KINDS" :key="group" :label="group"
            ><el-option v-for="kind in kinds" :key="kind" :value="kind" :label="kind"
          /></el-option-group>
        </el-select>
      </label>
      <label class="field" style="width: 210px"
        ><span>Number, if it has one</span><el-input v-model="form.number" maxlength="30"
      /></label>
    </div>
    <fieldset>
      <legend class="quiet">Begin with</legend>
      <label v-for="template in templates" :key="template.id" :class="{ here: form.templateId === template.id }">
        <input v-model="form.templateId" type="radio" name="template" :value="template.id" />
        <span>
          <b>{{ template.name }}</b> <span v-if="template.mine" class="sign info after">yours</span>
          <br />
          <span class="quiet">{{ [template.description, template.carries.join(', ')].filter(Boolean).join(' ') }}</span>
        </span>
        <button
          v-if="template.mine"
          type="button"
          class="button-link"
          :aria-label="`Remove the template ${template.name}`"
          @click.prevent="remove(template)"
        >
          <Trash2 :size="13" />
        </button>
      </label>
    </fieldset>
    <p class="quiet">
      Names of files begin with its number, or with letters of its name. Everything can be changed later.
    </p>
  </FormDialog>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 10px;
}
fieldset label {
  display: flex;
  align-items: start;
  gap: 9px;
  padding: 7px 9px;
  border-top: 1px solid var(--hairline);
  cursor: pointer;
}
fieldset label > span {
  flex: 1;
}
fieldset label.here {
  background: var(--action-wash);
}
</style>
