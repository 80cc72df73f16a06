<script setup lang="ts">
/** Chooses a property of the elements that are open: type and Enter. */
import { keyOf, type ColumnSummary, type PropertyKey } from '@kindred/core/scene/element-index';
import { computed } from 'vue';

const props = defineProps<{ columns: readonly ColumnSummary[]; label: string; numericOnly?: boolean }>();
const key = defineModel<PropertyKey | null>({ required: true });

const groups = computed(() => {
  const sets = new Map<string, ColumnSummary[]>();
  for (const column of props.columns) {
    if (props.numericOnly && !column.numeric) continue;
    const known = sets.get(column.set);
    if (known) known.push(column);
    else sets.set(column.set, [column]);
  }
  return [...sets]
    .sort(([a], [b]) => Number(a !== '') - Number(b !== '') || a.localeCompare(b))
    .map(([set, columns]) => ({ label: set || 'Element', columns }));
});
const chosen = computed({
  get: () => (key.value ? keyOf(key.value) : ''),
  set: (text: string) => {
    const column = props.columns.find((one) => keyOf(one) === text);
    key.value = column ? { set: column.set, name: column.name } : null;
  },
});
</script>

<template>
  <el-select
    v-model="chosen"
    filterable
    default-first-option
    clearable
    size="small"
    :placeholder="label"
    :aria-label="label"
  >
    <el-option-group v-for="group in groups" :key="group.label" :label="group.label">
      <el-option
        v-for="column in group.columns"
        :key="keyOf(column)"
        :value="keyOf(column)"
        :label="column.set ? `${column.name} (${column.set})` : column.name"
        >{{ column.name }}<span v-if="column.unit" class="quiet"> {{ column.unit }}</span></el-option
      >
    </el-option-group>
  </el-select>
</template>
