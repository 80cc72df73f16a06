<script setup lang="ts">
/** Elements counted and summed, in a table that one can click through. */
import type { PropertyKey } from '@kindred/core/scene/element-index';
import { keyOf } from '@kindred/core/scene/element-index';
import { X } from '@lucide/vue';
import { watchDebounced } from '@vueuse/core';
import { computed, ref, shallowRef } from 'vue';
import type { Facts } from './facts/facts.ts';
import type { ScheduleLine } from './facts/facts-worker.ts';
import PropertySelect from './PropertySelect.vue';
import { labelOf } from './value-colours.ts';

const props = defineProps<{
  facts: Facts;
  /** Of these elements; of all where none is selected. */
  selection: ReadonlySet<number>;
  /** Grows with each change of the selection. */
  painted: number;
}>();
const emit = defineEmits<{
  select: [elements: number[]];
  close: [];
  export: [by: PropertyKey[], sum: PropertyKey[]];
}>();

const by = ref<PropertyKey[]>([{ set: '', name: 'Class' }]);
const sum = ref<PropertyKey[]>([]);
const ofSelection = ref(false);
const lines = shallowRef<ScheduleLine[]>([]);
const plain = (keys: readonly PropertyKey[]): PropertyKey[] => keys.map(({ set, name }) => ({ set, name }));
const subject = (): Float64Array | undefined =>
  ofSelection.value && props.selection.size ? Float64Array.from(props.selection) : undefined;
watchDebounced(
  [by, sum, ofSelection, () => (ofSelection.value ? props.painted : 0), props.facts.edition],
  async () => {
    lines.value = await props.facts.remote.schedule({ by: plain(by.value), sum: plain(sum.value) }, subject());
  },
  { debounce: 80, immediate: true, deep: true },
);
const unitOf = (key: PropertyKey): string =>
  props.facts.columns.value.find((one) => keyOf(one) === keyOf(key))?.unit ?? '';
const total = computed(() => lines.value.reduce((all, { count }) => all + count, 0));
const add = (list: PropertyKey[], key: PropertyKey | null): void => {
  if (key && !list.some((one) => keyOf(one) === keyOf(key))) list.push(key);
};
</script>

<template>
  <section class="schedule" aria-label="Schedule">
    <header>
      <h2>Schedule</h2>
      <label><input v-model="ofSelection" type="checkbox" /> of the selection only</label>
      <PropertySelect
        class="add"
        :model-value="null"
        :columns="facts.columns.value"
        label="Group by"
        @update:model-value="add(by, $event)"
      />
      <PropertySelect
        class="add"
        :model-value="null"
        numeric-only
        :columns="facts.columns.value"
        label="Sum of"
        @update:model-value="add(sum, $event)"
      />
      <button class="button-link" @click="emit('export', plain(by), plain(sum))">Export XLSX</button>
      <button class="close" title="Close the schedule" @click="emit('close')"><X :size="15" /></button>
    </header>
    <div class="scroll" tabindex="0">
      <table>
        <thead>
          <tr>
            <th v-for="(key, i) in by" :key="keyOf(key)">
              {{ key.name
              }}<button :title="`Do not group by ${key.name}`" @click="by.splice(i, 1)"><X :size="11" /></button>
            </th>
            <th class="number">Elements</th>
            <th v-for="(key, i) in sum" :key="keyOf(key)" class="number">
              {{ key.name }} {{ unitOf(key)
              }}<button :title="`Do not sum ${key.name}`" @click="sum.splice(i, 1)"><X :size="11" /></button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(line, i) in lines.slice(0, 500)"
            :key="i"
            tabindex="0"
            @click="emit('select', [...line.elements])"
            @keydown.enter="emit('select', [...line.elements])"
          >
            <td v-for="(value, k) in line.values" :key="k">{{ value === null ? '–' : labelOf(value) }}</td>
            <td class="number mono">{{ line.count }}</td>
            <td v-for="(value, k) in line.sums" :key="k" class="number mono">
              {{ value === null ? '–' : labelOf(value) }}
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td v-if="by.length" :colspan="by.length">
              All<span v-if="lines.length > 500" class="quiet">
                ({{ lines.length }} lines, the first 500 are shown)</span
              >
            </td>
            <td class="number mono">{{ total }}</td>
            <td v-for="(_, k) in sum" :key="k" class="number mono">
              {{ labelOf(lines.reduce((all, { sums }) => all + (sums[k] ?? 0), 0)) }}
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
  </section>
</template>

<style scoped>
.schedule {
  display: flex;
  flex-direction: column;
  height: 236px;
  border-top: 1px solid var(--hairline);
  background: var(--sheet);
  font-size: 12px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  padding: 6px 12px;
  border-bottom: 1px solid var(--hairline);
}
h2 {
  margin: 0;
}
.add {
  width: 150px;
}
.close {
  margin-left: auto;
  border: 0;
  background: none;
  cursor: pointer;
  min-width: 24px;
  min-height: 24px;
}
.scroll {
  flex: 1;
  overflow: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 3px 12px;
  text-align: left;
  border-bottom: 1px solid var(--hairline);
}
th {
  position: sticky;
  top: 0;
  background: var(--sheet);
  font-weight: 600;
  white-space: nowrap;
}
th button {
  border: 0;
  background: none;
  cursor: pointer;
  color: var(--graphite);
  min-width: 24px;
  min-height: 20px;
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: var(--wash);
}
tfoot td {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  font-weight: 600;
}
.number {
  text-align: right;
}
</style>
