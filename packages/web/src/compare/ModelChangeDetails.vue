<script setup lang="ts">
/** One changed element: how its shape, its size and every value were and are. */
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { MODEL_CHANGE_WORDS, sayShapeChange } from '@kindred/words/model-changes';
import { sayValue } from '@kindred/words/property-values';
import { computed } from 'vue';
import { plainClass } from './change-tree.ts';

const props = defineProps<{
  change: ModelChange;
  colour: string;
  sign: string;
  /** Of how it was, where both versions are in one picture. */ wasColour?: string;
}>();
defineSlots<{ acts(): unknown; default(): unknown }>();
const about = computed(() => [plainClass(props.change.class), props.change.storey].filter(Boolean).join(', '));
/** Measures stand in the table. */
const said = computed(() => {
  const { geometry, kind } = props.change;
  const motion = sayShapeChange({ ...props.change, geometry: null });
  const shape = geometry && (measures.value.length ? 'another shape' : 'another shape of the same size');
  return [motion, shape].filter(Boolean).join(', ') || MODEL_CHANGE_WORDS[kind];
});
const wasElsewhere = computed(() => props.wasColour && (props.change.kind === 'moved' || props.change.kind === 'look'));
const number = (value: number): string => String(Math.round(value * 1000) / 1000);
const MEASURES = [
  ['length', 'Length', 'm'],
  ['area', 'Surface', 'm²'],
  ['volume', 'Volume', 'm³'],
] as const;
const measures = computed(() =>
  MEASURES.flatMap(([key, name, unit]) => {
    const pair = props.change.geometry?.[key];
    return pair ? [{ name, unit, before: number(pair[0]), after: number(pair[1]) }] : [];
  }),
);
</script>

<template>
  <section class="details" aria-label="What changed">
    <h2>{{ change.name || 'Without a name' }}</h2>
    <p class="quiet">{{ about }}</p>
    <p>
      <b :style="{ color: colour }">{{ sign }}</b> {{ said }}
    </p>
    <p v-if="wasElsewhere" class="quiet row legend">
      <i :style="{ background: wasColour }" /> as it was <i class="now" /> as it is
    </p>
    <p v-if="change.formerId" class="quiet">
      Under another GlobalId before: <span class="mono">{{ change.formerId }}</span>
    </p>
    <div class="row acts"><slot name="acts" /></div>
    <table v-if="measures.length || change.properties.length">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col">before</th>
          <th scope="col">after</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in measures" :key="one.name">
          <th scope="row">{{ one.name }}</th>
          <td class="mono">{{ one.before }} {{ one.unit }}</td>
          <td class="mono">{{ one.after }} {{ one.unit }}</td>
        </tr>
        <tr v-for="(one, i) in change.properties" :key="i">
          <th scope="row">
            {{ one.name }}<small v-if="one.set" class="quiet">{{ one.set }}</small>
          </th>
          <td>{{ one.before ? sayValue(one.before) : 'not said' }}</td>
          <td>{{ one.after ? sayValue(one.after) : 'not said' }}</td>
        </tr>
      </tbody>
    </table>
    <slot />
  </section>
</template>

<style scoped>
.details {
  padding: 12px;
  overflow: auto;
  font-size: 12px;
}
p {
  margin: 2px 0;
  overflow-wrap: anywhere;
}
.legend {
  gap: 6px;
}
.legend i {
  width: 10px;
  height: 10px;
}
.legend .now {
  margin-left: 8px;
  background: var(--selected, #e8951c);
}
.acts {
  gap: 12px;
  margin: 6px 0;
  flex-wrap: wrap;
}
table {
  width: 100%;
  border-collapse: collapse;
  margin-top: 6px;
  table-layout: fixed;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 3px 6px 3px 0;
  border-bottom: 1px solid var(--hairline);
  font-weight: 400;
  overflow-wrap: anywhere;
}
thead th {
  color: var(--graphite);
}
small {
  display: block;
}
</style>
