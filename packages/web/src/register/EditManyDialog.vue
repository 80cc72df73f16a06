<script setup lang="ts">
import type { Container } from '@kindred/contract/register/register';
import { computed, reactive, ref } from 'vue';
import { useNaming } from '../naming/store.ts';
import { EDITABLE, type EditableKey } from './columns.ts';
import { useEdits } from './edits.ts';

/** The same values for many containers; what is not ticked stays as each has it. */
const props = defineProps<{ containers: Container[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const naming = useNaming();
const edits = useEdits();
const saving = ref(false);
const WORDS: Record<EditableKey, string> = {
  title: 'Title',
  revision: 'Revision',
  status: 'Status',
  classification: 'Classification',
  description: 'Description',
};
const fields = reactive(
  Object.fromEntries(
    EDITABLE.map((key) => {
      const values = new Set(props.containers.map((container) => container[key]));
      return [key, { on: false, value: values.size === 1 ? [...values][0]! : '', several: values.size > 1 }];
    }),
  ) as Record<EditableKey, { on: boolean; value: string; several: boolean }>,
);
const changed = computed(() => EDITABLE.filter((key) => fields[key].on));
async function save(): Promise<void> {
  saving.value = true;
  const values = Object.fromEntries(changed.value.map((key) => [key, fields[key].value.trim()]));
  const done = await edits.change(props.containers.map(({ id }) => ({ containerId: id, ...values })));
  saving.value = false;
  if (done) emit('done');
}
</script>

<template>
  <AppDialog title="Change values" :width="560" @close="emit('close')">
    <p class="quiet">Tick what shall be the same for all {{ containers.length }}; the rest stays as each has it.</p>
    <div v-for="key in EDITABLE" :key="key" class="field">
      <el-checkbox v-model="fields[key].on">{{ WORDS[key] }}</el-checkbox>
      <el-select
        v-if="key === 'status' || key === 'classification'"
        v-model="fields[key].value"
        filterable
        default-first-option
        allow-create
        :placeholder="fields[key].several ? 'several' : ''"
        :aria-label="WORDS[key]"
        @change="fields[key].on = true"
        ><el-option
          v-for="code in key === 'status' ? naming.naming?.statuses : naming.naming?.classifications"
          :key="code.code"
          :value="code.code"
          :label="`${code.code} ${code.meaning}`"
      /></el-select>
      <el-input
        v-else
        v-model="fields[key].value"
        :placeholder="fields[key].several ? 'several' : ''"
        :aria-label="WORDS[key]"
        @input="fields[key].on = true"
      />
    </div>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :loading="saving" :disabled="!changed.length" @click="save"
        >Change {{ containers.length }}</el-button
      >
    </template>
  </AppDialog>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 10px;
  align-items: center;
  margin-bottom: 6px;
}
</style>
