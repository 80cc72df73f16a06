<script setup lang="ts">
import { jump, type Thing } from '@kindred/contract/things/things';
import { refDebounced } from '@vueuse/core';
import { computed, onMounted, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { call, unlessRefused } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import { STAGES } from './stages.ts';

const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const project = useProject();
const words = ref('');
const settled = refDebounced(words, 120);
const found = ref<Thing[]>([]);
const chosen = ref(0);
const input = ref<HTMLInputElement>();

const places = computed<Thing[]>(() =>
  STAGES.flatMap((stage) =>
    stage.views.map((view) => ({
      type: 'place',
      id: view.route,
      title: view.word,
      note: stage.word,
      link: `/projects/${project.projectId}/${view.route}`,
      at: '',
    })),
  ).filter(({ title, note }) => `${title} ${note}`.toLowerCase().includes(words.value.trim().toLowerCase())),
);
const hits = computed(() => (words.value.trim() ? [...found.value, ...places.value] : places.value));

watch(settled, async (typed) => {
  const q = typed.trim();
  const answer = (q && (await unlessRefused(call(jump, { params: project.params, query: { q } })))) || [];
  if (q === words.value.trim()) found.value = answer;
});
watch(hits, () => void (chosen.value = 0));
onMounted(() => input.value?.focus());

async function go(hit: Thing | undefined): Promise<void> {
  if (!hit) return;
  emit('close');
  await router.push(hit.link);
}
function onKey(event: KeyboardEvent): void {
  if (event.key === 'Escape') emit('close');
  else if (event.key === 'ArrowDown') chosen.value = Math.min(chosen.value + 1, hits.value.length - 1);
  else if (event.key === 'ArrowUp') chosen.value = Math.max(chosen.value - 1, 0);
  else if (event.key === 'Enter') void go(hits.value[chosen.value]);
  else return;
  event.preventDefault();
}
</script>

<template>
  <div class="veil" @mousedown.self="emit('close')">
    <div class="box" role="dialog" aria-label="Jump" @keydown="onKey">
      <input ref="input" v-model="words" placeholder="Container, sheet, issue, person or place" aria-label="Jump to" />
      <ul>
        <li
          v-for="(hit, i) in hits"
          :key="hit.type + hit.id"
          :class="{ chosen: i === chosen }"
          @mousemove="chosen = i"
          @click="go(hit)"
        >
          <span class="type">{{ hit.type }}</span><span :class="{ mono: hit.type === 'container' }">{{
            hit.title
          }}</span
          ><span class="quiet">{{ hit.note }}</span>
        </li>
        <li v-if="!hits.length" class="quiet">Nothing here has these words.</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  background: rgb(29 42 47 / 25%);
  z-index: 3000;
}
.box {
  width: min(640px, 92vw);
  margin: 70px auto;
  background: var(--sheet);
  border: 1px solid var(--graphite);
  border-radius: 3px;
  box-shadow: 0 12px 40px rgb(29 42 47 / 30%);
}
input {
  width: 100%;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  padding: 13px 16px;
  font:
    16px 'Archivo Variable',
    sans-serif;
  color: var(--ink);
  outline: none;
  background: none;
}
ul {
  list-style: none;
  margin: 0;
  padding: 6px;
  max-height: 420px;
  overflow: auto;
}
li {
  display: flex;
  gap: 10px;
  padding: 6px 10px;
  cursor: pointer;
  border-radius: 3px;
  white-space: nowrap;
  overflow: hidden;
}
li.chosen {
  background: var(--action-wash);
}
.type {
  width: 72px;
  flex: none;
  color: var(--graphite);
}
</style>
