<script setup lang="ts">
/** What was measured and marked: told, copied, taken away. */
import type { SceneMark, SceneMeasure } from '@kindred/contract/scene/scene';
import { X } from '@lucide/vue';

defineProps<{
  measures: readonly SceneMeasure[];
  marks: readonly SceneMark[];
  say: (measure: SceneMeasure) => string;
}>();
const emit = defineEmits<{
  removeMeasure: [number: number];
  removeMark: [number: number];
  copy: [];
  export: [];
  clear: [];
}>();
</script>

<template>
  <section v-if="measures.length || marks.length" class="list" aria-label="Measures and marks">
    <p v-for="(measure, i) in measures" :key="`measure ${i}`">
      <span>{{ measure.kind }}</span> <b class="mono">{{ say(measure) }}</b>
      <button :title="`Remove the ${measure.kind}`" @click="emit('removeMeasure', i)"><X :size="12" /></button>
    </p>
    <p v-for="(mark, i) in marks" :key="`mark ${i}`">
      <span>{{ mark.kind }}</span> <span class="quiet">{{ mark.text }}</span>
      <button :title="`Remove the ${mark.kind}`" @click="emit('removeMark', i)"><X :size="12" /></button>
    </p>
    <footer>
      <button v-if="measures.length" class="button-link" @click="emit('copy')">Copy</button>
      <button v-if="measures.length" class="button-link" @click="emit('export')">Export CSV</button>
      <button class="button-link" @click="emit('clear')">Remove all</button>
    </footer>
  </section>
</template>

<style scoped>
.list {
  position: absolute;
  left: 14px;
  bottom: 26px;
  min-width: 190px;
  max-height: 40%;
  overflow: auto;
  padding: 4px 6px 6px 12px;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  font-size: 12px;
}
p {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0;
}
p > :first-child {
  flex: 1;
}
p button {
  border: 0;
  background: none;
  min-width: 24px;
  min-height: 24px;
  color: var(--graphite);
  cursor: pointer;
}
footer {
  display: flex;
  gap: 12px;
}
</style>
