<script setup lang="ts">
import { changeProject, PROJECT_KINDS } from '@kindred/contract/portfolio/portfolio';
import { computed, reactive, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from './store.ts';

const project = useProject();
const form = reactive({
  name: '',
  number: '',
  kind: '',
  address: '',
  timeZone: '',
  startsOn: null as string | null,
  finishesOn: null as string | null,
});
const edition = ref(1);
const zones = Intl.supportedValuesOf('timeZone');
const mayChange = computed(() => project.may('project', 'change'));

watch(
  () => project.view?.project,
  (loaded) => {
    if (!loaded || (edition.value === loaded.edition && form.name)) return;
    const { name, number, kind, address, timeZone, startsOn, finishesOn } = loaded;
    Object.assign(form, { name, number, kind, address, timeZone, startsOn, finishesOn });
    edition.value = loaded.edition;
  },
  { immediate: true },
);

async function save(): Promise<void> {
  const saved = await attempt(async () => {
    edition.value = (
      await call(changeProject, { params: project.params, body: { ...form, edition: edition.value } })
    ).edition;
    await project.refresh();
  });
  if (saved) sayDone('Saved.');
}
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>Project</h1></div>
    <form class="details" @submit.prevent="save">
      <label class="field"><span>Name</span><el-input v-model="form.name" :disabled="!mayChange" /></label>
      <label class="field"><span>Number</span><el-input v-model="form.number" :disabled="!mayChange" /></label>
      <label class="field"
        ><span>Kind</span
        ><el-select v-model="form.kind" filterable :disabled="!mayChange"
          ><el-option-group v-for="(kinds, group) in PROJECT_KINDS" :key="group" :label="group"
            ><el-option v-for="kind in kinds" :key="kind" :value="kind" :label="kind" /></el-option-group></el-select
      ></label>
      <label class="field"
        ><span>Time zone of all dates</span
        ><el-select v-model="form.timeZone" filterable :disabled="!mayChange"
          ><el-option v-for="zone in zones" :key="zone" :value="zone" :label="zone" /></el-select
      ></label>
      <label class="field wide"><span>Address</span><el-input v-model="form.address" :disabled="!mayChange" /></label>
      <label class="field"
        ><span>Starts</span
        ><el-date-picker v-model="form.startsOn" value-format="YYYY-MM-DD" format="D MMM YYYY" :disabled="!mayChange"
      /></label>
      <label class="field"
        ><span>Finishes</span
        ><el-date-picker v-model="form.finishesOn" value-format="YYYY-MM-DD" format="D MMM YYYY" :disabled="!mayChange"
      /></label>
      <div class="wide">
        <el-button v-if="mayChange" type="primary" native-type="submit" :disabled="!form.name.trim()">Save</el-button>
      </div>
    </form>
  </div>
</template>

<style scoped>
.details {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 20px;
  max-width: 760px;
}
.wide {
  grid-column: 1 / 3;
}
</style>
