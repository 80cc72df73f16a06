<script setup lang="ts">
import { addNamingValue } from '@kindred/contract/naming/naming';
import { checkName } from '@kindred/core/naming/convention';
import { computed, reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import NameVerdict from './NameVerdict.vue';
import { useNaming } from './store.ts';

const project = useProject();
const store = useNaming();
const naming = computed(() => store.naming);
const tried = ref('');
const verdict = computed(() =>
  naming.value && tried.value.trim() ? checkName(naming.value.convention, tried.value.trim()) : null,
);
const value = reactive({ field: '', code: '', meaning: '' });
const lists = computed(() => naming.value?.convention.fields.filter(({ kind }) => kind === 'list') ?? []);

async function add(): Promise<void> {
  const added = await attempt(() => call(addNamingValue, { params: project.params, body: { ...value } }));
  if (!added) return;
  sayDone(`“${value.code}” is now allowed in ${value.field}.`);
  Object.assign(value, { code: '', meaning: '' });
  await store.refetch();
}
</script>

<template>
  <div v-if="naming" class="page">
    <div class="page-head">
      <h1>{{ naming.convention.name }}</h1>
      <span class="quiet">naming convention, fields joined by “{{ naming.convention.separator }}”</span>
    </div>
    <div class="fields">
      <section v-for="(field, i) in naming.convention.fields" :key="field.name">
        <h2>
          <span class="mono quiet">{{ i + 1 }}</span> {{ field.name }}
        </h2>
        <template v-if="field.kind === 'list'">
          <p v-for="item in field.values" :key="item.code">
            <b class="mono">{{ item.code }}</b> {{ item.meaning }}
          </p>
        </template>
        <p v-else-if="field.kind === 'number'" class="quiet">a number of {{ field.length }} digits</p>
        <p v-else class="quiet">
          {{ field.minLength }} to {{ field.maxLength }} characters, <span class="mono">{{ field.pattern }}</span>
        </p>
      </section>
    </div>
    <div class="two">
      <section>
        <h2>Try a name</h2>
        <el-input v-model="tried" placeholder="ORP-TVA-ZZ-00-D-A-0101" class="mono" aria-label="Name to try" />
        <NameVerdict v-if="verdict" :verdict="verdict" style="margin-top: 10px" />
      </section>
      <section v-if="project.may('naming', 'change')">
        <h2>Add an allowed value</h2>
        <form class="row" @submit.prevent="add">
          <el-select v-model="value.field" placeholder="Field" style="width: 140px"
            ><el-option v-for="field in lists" :key="field.name" :value="field.name" :label="field.name"
          /></el-select>
          <el-input v-model="value.code" placeholder="Code" style="width: 90px" class="mono" />
          <el-input v-model="value.meaning" placeholder="What it means" />
          <el-button native-type="submit" :disabled="!value.field || !value.code || !value.meaning">Add</el-button>
        </form>
        <p class="quiet">Adding a value is always safe: names that conform go on conforming.</p>
      </section>
    </div>
    <div class="two">
      <section>
        <h2>Status codes</h2>
        <p v-for="item in naming.statuses" :key="item.code">
          <b class="mono">{{ item.code }}</b> {{ item.meaning }}
        </p>
      </section>
      <section>
        <h2>Classification</h2>
        <p v-for="item in naming.classifications" :key="item.code">
          <b class="mono">{{ item.code }}</b> {{ item.meaning }}
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(116px, 1fr));
  background: var(--sheet);
  border: 1px solid var(--hairline);
  margin-bottom: 24px;
}
.fields section {
  padding: 10px;
  border-right: 1px solid var(--hairline);
}
.fields section:last-child {
  border-right: 0;
}
p {
  margin: 3px 0 0;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 40px;
  margin-bottom: 24px;
}
h2 {
  margin-bottom: 6px;
}
</style>
