<script setup lang="ts">
import type { Field } from '@kindred/core/naming/convention';
import { valueLineProblem } from '@kindred/words/naming';
import { readValues, writeValues, type ValuesRead } from '@kindred/core/naming/values-file';
import { Download, Plus, Trash2, Upload } from '@lucide/vue';
import { computed, ref } from 'vue';
import { openText, saveText } from '../platform/files.ts';
import { attempt, sayDone } from '../platform/say.ts';

const field = defineModel<Field>({ required: true });
const { separator, readonly, companies } = defineProps<{
  separator: string;
  readonly: boolean;
  /** Their codes may become the values of a list. */
  companies: readonly { code: string; name: string }[];
}>();
const emit = defineEmits<{ kind: [Field['kind']] }>();
const KINDS = { list: 'one of a list', number: 'a number', pattern: 'a pattern' } as const;
const left = ref<ValuesRead['problems']>([]);
const values = computed(() => (field.value.kind === 'list' ? field.value.values : []));

function addValue(): void {
  if (field.value.kind === 'list') field.value.values.push({ code: '', meaning: '' });
}
function removeValue(i: number): void {
  if (field.value.kind === 'list') field.value.values.splice(i, 1);
}
/** An emptied length is no length. */
function setLength(part: 'length' | 'minLength' | 'maxLength', typed: string): void {
  if (field.value.kind === 'list') return;
  const n = Number.parseInt(typed, 10);
  if (Number.isNaN(n)) delete field.value[part];
  else field.value[part] = n;
  if (part === 'length' && field.value.length !== undefined) {
    delete field.value.minLength;
    delete field.value.maxLength;
  } else if (part !== 'length') delete field.value.length;
}
const LENGTHS = { length: 'Fixed length', minLength: 'At least', maxLength: 'At most' } as const;
/** The codes of the companies that work in the project, as values of an originator. */
function takeCompanies(): void {
  if (field.value.kind !== 'list') return;
  const known = new Set(field.value.values.map(({ code }) => code));
  const fresh = companies.filter(({ code }) => !known.has(code));
  field.value.values = [
    ...field.value.values.filter(({ code }) => code),
    ...fresh.map(({ code, name }) => ({ code, meaning: name })),
  ];
}
const exportValues = () => saveText(`${field.value.name}.csv`, writeValues(values.value), 'text/csv');
/** Values of the file are added; those that are there keep their place and take the meaning of the file. */
async function importValues(): Promise<void> {
  await attempt(async () => {
    const file = await openText('.csv,.txt,text/csv');
    if (!file || field.value.kind !== 'list') return;
    const read = readValues(file.text, separator);
    if (!read.values.length)
      throw new RangeError(`“${file.name}” holds no values: the first column is the code, the second its meaning.`);
    const known = new Map(field.value.values.map((value) => [value.code, value]));
    const fresh = read.values.filter(({ code }) => !known.has(code));
    for (const { code, meaning } of read.values) if (meaning && known.has(code)) known.get(code)!.meaning = meaning;
    field.value.values.push(...fresh);
    left.value = read.problems;
    sayDone(`New: ${fresh.length}, known: ${read.values.length - fresh.length}. Nothing is saved yet.`);
  });
}
</script>

<template>
  <div class="editor">
    <div class="row">
      <label class="field" style="width: 190px"
        ><span>Name of the field</span><el-input v-model="field.name" :disabled="readonly" maxlength="60"
      /></label>
      <label class="field" style="width: 150px"
        ><span>It is</span
        ><el-select :model-value="field.kind" :disabled="readonly" @update:model-value="emit('kind', $event)"
          ><el-option v-for="(words, kind) in KINDS" :key="kind" :value="kind" :label="words" /></el-select
      ></label>
      <template v-if="field.kind !== 'list'">
        <label v-for="(words, part) in LENGTHS" :key="part" class="field" style="width: 96px"
          ><span>{{ words }}</span
          ><el-input
            :model-value="field[part] === undefined ? '' : String(field[part])"
            :disabled="readonly"
            inputmode="numeric"
            class="mono"
            @update:model-value="setLength(part, $event)"
        /></label>
      </template>
      <label v-if="field.kind === 'pattern'" class="field" style="flex: 1"
        ><span>Regular expression of the whole field</span
        ><el-input v-model="field.pattern" :disabled="readonly" class="mono" maxlength="200"
      /></label>
    </div>
    <template v-if="field.kind === 'list'">
      <div class="values">
        <div v-for="(value, i) in field.values" :key="i" class="row">
          <el-input v-model="value.code" size="small" :disabled="readonly" class="mono code" aria-label="Code" />
          <el-input v-model="value.meaning" size="small" :disabled="readonly" aria-label="Its meaning" />
          <button v-if="!readonly" class="button-link" :aria-label="`Remove ${value.code}`" @click="removeValue(i)">
            <Trash2 :size="13" />
          </button>
        </div>
      </div>
      <div class="row tools">
        <el-button v-if="!readonly" size="small" @click="addValue"
          ><Plus :size="14" class="icon" /> Add value</el-button
        >
        <el-button v-if="!readonly" size="small" @click="importValues"
          ><Upload :size="14" class="icon" /> Values from CSV</el-button
        >
        <el-button v-if="!readonly && companies.length" size="small" @click="takeCompanies"
          >Codes of the companies</el-button
        >
        <el-button size="small" @click="exportValues"><Download :size="14" class="icon" /> Values as CSV</el-button>
      </div>
      <p v-for="problem in left" :key="problem.line" class="sign caution" style="display: flex">
        Line {{ problem.line }} was left out: {{ valueLineProblem(problem) }}
      </p>
    </template>
  </div>
</template>

<style scoped>
.editor {
  padding: 12px 14px;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  border-top: 0;
}
.values {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 4px 18px;
  max-height: 240px;
  overflow: auto;
}
.code {
  width: 96px;
  flex: none;
}
.tools {
  margin-top: 10px;
}
.icon {
  margin-right: 4px;
}
</style>
