<script setup lang="ts">
/** All sheets of two versions in one table: what changed on each, which came and went. */
import type { ComparedSheet } from '@kindred/contract/compare/compare';
import { OUTCOME_WORDS, sayVerdict } from '@kindred/words/sheet-changes';
import { computed, ref } from 'vue';

const props = defineProps<{ sheets: readonly ComparedSheet[]; page: number }>();
const emit = defineEmits<{ page: [number] }>();
const changedOnly = ref(false);
const quiet = ({ outcome, counts }: ComparedSheet): boolean =>
  outcome === 'compared' && !Object.values(counts).some(Boolean);
const silent = computed(() => props.sheets.filter(quiet).length);
const shown = computed(() => props.sheets.filter((sheet) => !changedOnly.value || !quiet(sheet)));
const nameOf = ({ number, title, afterPage, beforePage }: ComparedSheet): string =>
  [number, title].filter(Boolean).join(' ') || `Page ${afterPage ?? beforePage}`;
const said = ({ outcome, counts, brief, note }: ComparedSheet): string =>
  outcome === 'compared' ? sayVerdict(counts, brief) : note || OUTCOME_WORDS[outcome];
</script>

<template>
  <label v-if="silent && sheets.length > 1" class="filter"
    ><input v-model="changedOnly" type="checkbox" /> leave out {{ silent }} without changes</label
  >
  <ul>
    <li v-for="sheet in shown" :key="sheet.position">
      <button
        :disabled="sheet.afterPage === null"
        :aria-current="sheet.afterPage === page ? 'true' : undefined"
        @click="emit('page', sheet.afterPage!)"
      >
        <b>{{ nameOf(sheet) }}</b>
        <small v-if="sheet.formerNumber">{{ sheet.split ? 'part of what was' : 'was' }} {{ sheet.formerNumber }}</small>
        <small v-else-if="sheet.split">others came from it too</small>
        <span :class="{ loud: !quiet(sheet) }">{{ said(sheet) }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.filter {
  display: block;
  padding: 8px 12px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  border-bottom: 1px solid var(--hairline);
}
button {
  display: block;
  width: 100%;
  padding: 8px 12px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
button:disabled {
  cursor: default;
}
button[aria-current] {
  background: var(--sheet);
}
button > * {
  display: block;
}
span {
  color: var(--graphite);
}
span.loud {
  color: var(--ink);
}
</style>
