<script setup lang="ts">
import { changeSchemes, type Naming } from '@kindred/contract/naming/naming';
import { readValues, writeValues } from '@kindred/core/naming/values-file';
import { nextRevision, firstRevision, type RevisionScheme } from '@kindred/core/register/revision';
import { Download, Plus, Trash2, Upload } from '@lucide/vue';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { openText, saveText } from '../platform/files.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useNaming } from './store.ts';

type Part = 'statuses' | 'revisions' | 'classifications';
const { naming, part } = defineProps<{ naming: Naming; part: Part }>();
const project = useProject();
const store = useNaming();
const readonly = computed(() => !project.may('naming', 'manage'));
const copyOf = <T,>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const codes = ref<{ code: string; meaning: string }[]>([]);
const revisions = ref<RevisionScheme>(copyOf(naming.revisions));
const edition = ref(naming.schemesEdition);
const overtaken = ref(false);
const saved = computed(() => (part === 'revisions' ? naming.revisions : naming[part]));
const draft = computed(() => (part === 'revisions' ? revisions.value : codes.value));
const dirty = computed(() => JSON.stringify(draft.value) !== JSON.stringify(saved.value));
function reset(): void {
  if (part === 'revisions') revisions.value = copyOf(naming.revisions);
  else codes.value = copyOf(naming[part]);
  edition.value = naming.schemesEdition;
  overtaken.value = false;
}
function keepMine(): void {
  edition.value = naming.schemesEdition;
  overtaken.value = false;
}
watch(() => part, reset, { immediate: true });
watch(
  () => naming,
  (now, before) => {
    const untouched =
      JSON.stringify(draft.value) === JSON.stringify(part === 'revisions' ? before.revisions : before[part]);
    const theirs = part === 'revisions' ? now.revisions : now[part];
    const same = JSON.stringify(theirs) === JSON.stringify(part === 'revisions' ? before.revisions : before[part]);
    if (untouched) reset();
    else if (same) edition.value = now.schemesEdition;
    else overtaken.value = true;
  },
);

async function save(): Promise<void> {
  const done = await attempt(async () => {
    await call(changeSchemes, { params: project.params, body: { edition: edition.value, [part]: draft.value } });
    await store.refetch();
    reset();
  });
  if (done) sayDone('Saved.');
}
async function importCodes(): Promise<void> {
  await attempt(async () => {
    const file = await openText('.csv,.txt,text/csv');
    if (!file) return;
    const { values, problems } = readValues(file.text, '');
    const known = new Set(codes.value.map(({ code }) => code));
    codes.value.push(...values.filter(({ code }) => !known.has(code)));
    sayDone(`Codes read: ${values.length}, lines left out: ${problems.length}. Nothing is saved yet.`);
  });
}
const run = computed(() => {
  const list = [firstRevision(revisions.value)];
  while (list.length < 4) list.push(nextRevision(revisions.value, list.at(-1)));
  return list.join(', ');
});
const WORDS: Record<Part, string> = {
  statuses: 'What a version may be used for: kept beside the name, never in it.',
  revisions: 'The series that revisions follow; the upload desk proposes the next one.',
  classifications: 'What a container is, by a table of the project.',
};
</script>

<template>
  <section class="codes">
    <p class="quiet">{{ WORDS[part] }}</p>
    <template v-if="part !== 'revisions'">
      <div class="list">
        <div v-for="(code, i) in codes" :key="i" class="row">
          <el-input
            v-model="code.code"
            size="small"
            class="mono code"
            maxlength="20"
            :disabled="readonly"
            aria-label="Code"
          />
          <el-input v-model="code.meaning" size="small" maxlength="120" :disabled="readonly" aria-label="Its meaning" />
          <button v-if="!readonly" class="button-link" :aria-label="`Remove ${code.code}`" @click="codes.splice(i, 1)">
            <Trash2 :size="13" />
          </button>
        </div>
      </div>
      <div class="row tools">
        <el-button v-if="!readonly" size="small" @click="codes.push({ code: '', meaning: '' })"
          ><Plus :size="14" /> Add code</el-button
        >
        <el-button v-if="!readonly" size="small" @click="importCodes"
          ><Upload :size="14" style="margin-right: 4px" /> From CSV</el-button
        >
        <el-button size="small" @click="saveText(`${part}.csv`, writeValues(codes), 'text/csv')"
          ><Download :size="14" style="margin-right: 4px" /> As CSV</el-button
        >
      </div>
    </template>
    <template v-else>
      <label class="field" style="width: 320px"
        ><span>Name of the scheme</span><el-input v-model="revisions.name" :disabled="readonly"
      /></label>
      <table class="plain-table series">
        <thead>
          <tr>
            <th>Prefix</th>
            <th>Counts in</th>
            <th>Digits</th>
            <th>Minor steps (P01.1)</th>
            <th>Meaning</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(one, i) in revisions.series" :key="i">
            <td>
              <el-input
                v-model="one.prefix"
                size="small"
                class="mono"
                style="width: 70px"
                maxlength="4"
                :disabled="readonly"
                aria-label="Prefix"
              />
            </td>
            <td>
              <el-select
                v-model="one.kind"
                size="small"
                style="width: 110px"
                :disabled="readonly"
                aria-label="Counts in"
                ><el-option value="numbers" label="numbers" /><el-option value="letters" label="letters"
              /></el-select>
            </td>
            <td>
              <el-select
                v-model="one.digits"
                size="small"
                style="width: 70px"
                :disabled="readonly || one.kind === 'letters'"
                aria-label="Digits"
                ><el-option v-for="n in 4" :key="n" :value="n" :label="String(n)"
              /></el-select>
            </td>
            <td><el-checkbox v-model="one.minor" :disabled="readonly" aria-label="Minor steps" /></td>
            <td><el-input v-model="one.meaning" size="small" :disabled="readonly" aria-label="Meaning" /></td>
            <td>
              <button
                v-if="!readonly && revisions.series.length > 1"
                class="button-link"
                aria-label="Remove series"
                @click="revisions.series.splice(i, 1)"
              >
                <Trash2 :size="13" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p style="margin-top: 8px">
        They run <b class="mono">{{ run }}</b> …
      </p>
      <el-button
        v-if="!readonly"
        size="small"
        @click="revisions.series.push({ prefix: 'X', kind: 'numbers', digits: 2, minor: false, meaning: '' })"
        ><Plus :size="14" /> Add series</el-button
      >
    </template>
    <p v-if="overtaken" class="sign caution full" style="margin-top: 12px">
      Someone else saved these codes meanwhile.
      <button class="button-link" @click="reset">Take theirs</button>
      <button class="button-link" @click="keepMine">Keep mine</button>
    </p>
    <div v-if="dirty && !readonly" class="row" style="margin-top: 14px">
      <el-button @click="reset">Discard</el-button>
      <el-button type="primary" @click="save">Save codes</el-button>
    </div>
  </section>
</template>

<style scoped>
.codes {
  max-width: 820px;
}
.list {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(340px, 1fr));
  gap: 4px 24px;
}
.code {
  width: 96px;
  flex: none;
}
.tools {
  margin-top: 10px;
}
</style>
