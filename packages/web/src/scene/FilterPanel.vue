<script setup lang="ts">
/** Finds elements by conditions on what is said of them. */
import { FILTER_TESTS, type ElementFilter, type FilterCondition } from '@kindred/core/scene/element-filter';
import type { PropertyKey } from '@kindred/core/scene/element-index';
import { Plus, X } from '@lucide/vue';
import { watchDebounced } from '@vueuse/core';
import { ref } from 'vue';
import type { Facts } from './facts/facts.ts';
import { useKeptFilters } from './kept-filters.ts';
import PropertySelect from './PropertySelect.vue';

const props = defineProps<{ facts: Facts }>();
const filter = defineModel<ElementFilter>({ required: true });
const emit = defineEmits<{
  select: [elements: number[]];
  isolate: [elements: number[], rest: 'hidden' | 'ghost'];
}>();

const found = ref<Float64Array>();
watchDebounced(
  [filter, props.facts.edition],
  async () => {
    const asked = filter.value;
    const elements = asked.conditions.length ? await props.facts.remote.filter(plain(asked)) : undefined;
    if (asked === filter.value) found.value = elements;
  },
  { debounce: 120, immediate: true, deep: true },
);
/** As a worker takes it. */
const plain = ({ match, conditions }: ElementFilter): ElementFilter => ({
  match,
  conditions: conditions.map((condition) => ({ ...condition })),
});
const change = (i: number, part: Partial<FilterCondition>): void =>
  void (filter.value = {
    ...filter.value,
    conditions: filter.value.conditions.map((one, k) => (k === i ? { ...one, ...part } : one)),
  });
const add = (key: PropertyKey | null): void => {
  if (key)
    filter.value = { ...filter.value, conditions: [...filter.value.conditions, { ...key, test: 'is', value: '' }] };
};
const remove = (i: number): void =>
  void (filter.value = { ...filter.value, conditions: filter.value.conditions.filter((_, k) => k !== i) });
const saysNothing = ({ test }: FilterCondition): boolean => test === 'is said' || test === 'is not said';

/** Values to choose from, as far as there are few. */
const values = ref<{ key: string; list: string[] }>({ key: '', list: [] });
async function offer({ set, name }: FilterCondition): Promise<void> {
  const groups = await props.facts.remote.group({ set, name });
  const list = groups.flatMap(({ value }) => (value === null ? [] : [String(value)])).slice(0, 200);
  values.value = { key: `${set}\n${name}`, list };
}
const { kept, mayShare, keep, share, remove: forget } = useKeptFilters();
const name = ref('');
function under(act: (name: string, filter: ElementFilter) => unknown): void {
  const called = name.value.trim();
  if (called) void act(called, plain(filter.value));
  name.value = '';
}
const elements = (): number[] => [...(found.value ?? [])];
</script>

<template>
  <div class="filter">
    <p v-if="filter.conditions.length > 1" class="row">
      <select
        :value="filter.match"
        aria-label="How many conditions hold"
        @change="filter = { ...filter, match: ($event.target as HTMLSelectElement).value as 'all' }"
      >
        <option value="all">All conditions hold</option>
        <option value="any">Any of them holds</option>
      </select>
    </p>
    <div v-for="(condition, i) in filter.conditions" :key="i" class="condition">
      <b :title="condition.set || 'Element'">{{ condition.name }}</b>
      <button title="Remove the condition" @click="remove(i)"><X :size="13" /></button>
      <select
        :value="condition.test"
        :aria-label="`Test of ${condition.name}`"
        @change="change(i, { test: ($event.target as HTMLSelectElement).value as 'is' })"
      >
        <option v-for="test in FILTER_TESTS" :key="test">{{ test }}</option>
      </select>
      <input
        v-if="!saysNothing(condition)"
        :value="condition.value"
        :list="`values-${i}`"
        :aria-label="`Value of ${condition.name}`"
        @focus="offer(condition)"
        @input="change(i, { value: ($event.target as HTMLInputElement).value })"
      />
      <datalist :id="`values-${i}`">
        <template v-if="values.key === `${condition.set}\n${condition.name}`">
          <option v-for="value in values.list" :key="value" :value="value" />
        </template>
      </datalist>
    </div>
    <div class="row add">
      <Plus :size="13" />
      <PropertySelect
        :model-value="null"
        :columns="facts.columns.value"
        label="Add a condition"
        @update:model-value="add"
      />
    </div>
    <div v-if="found" class="result" role="status">
      <span
        ><b class="mono">{{ found.length }}</b> {{ found.length === 1 ? 'element' : 'elements' }}</span
      >
      <button class="button-link" :disabled="!found.length" @click="emit('select', elements())">Select</button>
      <button class="button-link" :disabled="!found.length" @click="emit('isolate', elements(), 'hidden')">
        Isolate
      </button>
      <button class="button-link" :disabled="!found.length" @click="emit('isolate', elements(), 'ghost')">
        Rest as ghosts
      </button>
    </div>
    <form v-if="filter.conditions.length" class="row" @submit.prevent="under(keep)">
      <input v-model="name" placeholder="Keep it as …" aria-label="Name of the filter" maxlength="60" />
      <button class="button-link" :disabled="!name.trim()">Keep</button>
      <button v-if="mayShare" type="button" class="button-link" :disabled="!name.trim()" @click="under(share)">
        Share
      </button>
    </form>
    <ul v-if="kept.length" aria-label="Filters kept">
      <li v-for="one in kept" :key="one.id ?? one.name">
        <button class="button-link" @click="filter = one.filter">{{ one.name }}</button>
        <span class="quiet">{{ one.owner && `shared by ${one.owner}` }}</span>
        <button v-if="one.mayRemove" :title="`Remove ${one.name}`" @click="forget(one)">
          <X :size="12" />
        </button>
      </li>
    </ul>
    <p v-if="filter.conditions.length" class="quiet">
      The address of this page holds the filter: send it to show others.
    </p>
    <p v-if="facts.silent.value.length" class="quiet">
      Some models were prepared before their properties could be asked: have them prepared again on their page.
    </p>
  </div>
</template>

<style scoped>
.filter {
  display: grid;
  gap: 8px;
  padding: 10px 12px 10px 0;
  font-size: 12px;
}
.condition {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 4px;
  align-items: center;
  border-bottom: 1px solid var(--hairline);
  padding-bottom: 8px;
}
.condition b {
  grid-column: 1 / 3;
  overflow: hidden;
  text-overflow: ellipsis;
}
.condition input,
select {
  grid-column: 2 / -1;
  min-width: 0;
  height: 26px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
  font: inherit;
}
.condition select {
  grid-column: 1;
}
.condition button {
  border: 0;
  background: none;
  min-width: 24px;
  min-height: 24px;
  cursor: pointer;
  color: var(--graphite);
}
.add,
form {
  gap: 6px;
}
form input {
  flex: 1;
  min-width: 0;
  height: 26px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
  font: inherit;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
li span {
  flex: 1;
}
li button:last-child {
  border: 0;
  background: none;
  min-width: 24px;
  min-height: 24px;
  cursor: pointer;
  color: var(--graphite);
}
.result {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
</style>
