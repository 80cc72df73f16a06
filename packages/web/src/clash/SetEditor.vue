<script setup lang="ts">
/** One of the two sets of a rule: conditions on what is said of elements; none is everything. */
import type { RuleSet } from '@kindred/core/clash/rule';
import { FILTER_TESTS, type FilterCondition } from '@kindred/core/scene/element-filter';
import { OF_CODE, OF_ELEMENT } from '@kindred/core/scene/element-index';
import { Plus, X } from '@lucide/vue';
import { computed } from 'vue';

const props = defineProps<{
  name: string;
  /** Fields of codes of containers. */
  fields: readonly string[];
  /** For everyone. */
  lineUps: readonly { id: string; name: string }[];
}>();
const filter = defineModel<RuleSet>({ required: true });
const change = (i: number, part: Partial<FilterCondition>): void =>
  void (filter.value = {
    ...filter.value,
    conditions: filter.value.conditions.map((one, k) => (k === i ? { ...one, ...part } : one)),
  });
const remove = (i: number): void =>
  void (filter.value = { ...filter.value, conditions: filter.value.conditions.filter((_, k) => k !== i) });
const add = (): void =>
  void (filter.value = {
    ...filter.value,
    conditions: [...filter.value.conditions, { set: '', name: 'Class', test: 'is', value: '' }],
  });
/** A property of the element, a field of the code of its model, or any of a set, written `Set / Property`. */
const labels = computed(() => [...OF_ELEMENT, ...props.fields.map((field) => `${OF_CODE} / ${field}`)]);
const labelOf = ({ set, name }: FilterCondition): string => (set ? `${set} / ${name}` : name);
function keyOf(label: string): Pick<FilterCondition, 'set' | 'name'> {
  const at = label.lastIndexOf(' / ');
  return at < 0
    ? { set: '', name: label.trim() }
    : { set: label.slice(0, at).trim(), name: label.slice(at + 3).trim() };
}
const saysNothing = ({ test }: FilterCondition): boolean => test === 'is said' || test === 'is not said';
</script>

<template>
  <fieldset>
    <legend>{{ name }}</legend>
    <p v-if="!filter.conditions.length" class="quiet">Everything</p>
    <label v-if="filter.conditions.length > 1" class="quiet"
      >holds where
      <select
        :value="filter.match"
        :aria-label="`${name}: how many conditions hold`"
        @change="filter = { ...filter, match: ($event.target as HTMLSelectElement).value as 'all' }"
      >
        <option value="all">all of these hold</option>
        <option value="any">any of these holds</option>
      </select></label
    >
    <div v-for="(condition, i) in filter.conditions" :key="i" class="condition">
      <el-select
        :model-value="labelOf(condition)"
        filterable
        allow-create
        default-first-option
        size="small"
        :aria-label="`${name}: property ${i + 1}`"
        @update:model-value="change(i, keyOf($event))"
        ><el-option v-for="label in labels" :key="label" :value="label" :label="label"
      /></el-select>
      <select
        :value="condition.test"
        :aria-label="`${name}: test ${i + 1}`"
        @change="change(i, { test: ($event.target as HTMLSelectElement).value as 'is' })"
      >
        <option v-for="test in FILTER_TESTS" :key="test">{{ test }}</option>
      </select>
      <el-input
        v-if="!saysNothing(condition)"
        :model-value="condition.value"
        size="small"
        :aria-label="`${name}: value ${i + 1}`"
        @update:model-value="change(i, { value: $event })"
      />
      <span v-else />
      <button type="button" title="Remove the condition" @click="remove(i)"><X :size="13" /></button>
    </div>
    <label v-if="lineUps.length || filter.lineUpId" class="quiet line-up"
      >of the line-up
      <select
        :value="filter.lineUpId ?? ''"
        :aria-label="`${name}: line-up`"
        @change="filter = { ...filter, lineUpId: ($event.target as HTMLSelectElement).value || null }"
      >
        <option value="">any model</option>
        <option v-for="one in lineUps" :key="one.id" :value="one.id">{{ one.name }}</option>
        <option v-if="filter.lineUpId && !lineUps.some(({ id }) => id === filter.lineUpId)" :value="filter.lineUpId">
          one that is not there any more
        </option>
      </select></label
    >
    <button type="button" class="button-link" @click="add"><Plus :size="13" /> Condition</button>
  </fieldset>
</template>

<style scoped>
fieldset {
  margin: 0;
  padding: 6px 10px 8px;
  border: 1px solid var(--hairline);
}
legend {
  font-weight: 600;
  padding: 0 4px;
}
p {
  margin: 2px 0;
}
label select {
  margin-left: 4px;
}
.line-up {
  display: block;
  margin: 6px 0;
}
.condition {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) auto minmax(0, 1fr) 26px;
  gap: 6px;
  align-items: center;
  margin: 4px 0;
}
.condition button {
  min-height: 26px;
  border: 0;
  background: none;
  cursor: pointer;
}
select {
  font: inherit;
  min-height: 26px;
}
</style>
