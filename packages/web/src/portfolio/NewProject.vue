<script setup lang="ts">
import { createProject, PROJECT_KINDS } from '@kindred/contract/portfolio/portfolio';
import dayjs from 'dayjs';
import { reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';

const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const form = reactive({ name: '', kind: '', number: '' });
const busy = ref(false);

async function create(): Promise<void> {
  busy.value = true;
  await attempt(async () => {
    const project = await call(createProject, { body: { ...form, timeZone: dayjs.tz.guess() } });
    emit('close');
    await router.push({ name: 'register', params: { projectId: project.id } });
  });
  busy.value = false;
}
</script>

<template>
  <el-dialog model-value title="New project" width="480" @close="emit('close')">
    <form id="new-project" @submit.prevent="create">
      <label class="field"><span>Name</span><el-input v-model="form.name" maxlength="120" autofocus /></label>
      <label class="field"
        ><span>Kind</span>
        <el-select v-model="form.kind" placeholder="Choose" filterable>
          <el-option-group v-for="(kinds, group) in PROJECT_KINDS" :key="group" :label="group"
            ><el-option v-for="kind in kinds" :key="kind" :value="kind" :label="kind"
          /></el-option-group>
        </el-select>
      </label>
      <label class="field"
        ><span>Number, if it has one: names of files begin with it</span><el-input v-model="form.number" maxlength="30"
      /></label>
      <p class="quiet">
        It comes with folders for three teams, five roles, a naming convention after ISO 19650, and two review routes.
        Everything can be changed later.
      </p>
    </form>
    <template #footer>
      <el-button @click="emit('close')">Not now</el-button>
      <el-button
        type="primary"
        native-type="submit"
        form="new-project"
        :disabled="!form.name.trim() || !form.kind"
        :loading="busy"
        >Create project</el-button
      >
    </template>
  </el-dialog>
</template>
