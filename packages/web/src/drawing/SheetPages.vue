<script setup lang="ts">
/** The sheets of a set as pictures, each with what is open on it; one is chosen. */
import type { Sheet } from '@kindred/contract/drawing/drawing';
import { counted } from '@kindred/words/sentence';
import { X } from '@lucide/vue';
import { useVirtualList } from '@vueuse/core';
import { computed, nextTick, onMounted, watch } from 'vue';
import SheetPicture from './table/SheetPicture.vue';
import type { SheetSource } from './table/sources.ts';

const props = defineProps<{
  source: SheetSource;
  sheets: readonly Sheet[];
  page: number;
  /** By page. */
  open: ReadonlyMap<number, { markups: number; issues: number }>;
}>();
const emit = defineEmits<{ page: [page: number]; close: [] }>();
const HEIGHT = 158;
const {
  list: shown,
  containerProps,
  wrapperProps,
  scrollTo,
} = useVirtualList(
  computed(() => [...props.sheets]),
  { itemHeight: HEIGHT, overscan: 2 },
);
const bringIntoSight = (): void => scrollTo(props.sheets.findIndex(({ page }) => page === props.page));
onMounted(() => void nextTick(bringIntoSight));
const here = computed(() => props.sheets.findIndex(({ page }) => page === props.page));
watch(here, (at) => !shown.value.some(({ index }) => index === at) && bringIntoSight());
function said(page: number): string {
  const { markups, issues } = props.open.get(page) ?? { markups: 0, issues: 0 };
  return [markups && counted(markups, 'open markup'), issues && counted(issues, 'open issue')]
    .filter(Boolean)
    .join(' · ');
}
function step(by: number): void {
  const next = props.sheets[here.value + by];
  if (next) emit('page', next.page);
}
</script>

<template>
  <section
    class="over-surface pages"
    aria-label="Sheets of this drawing"
    @keydown.esc.stop="emit('close')"
    @keydown.down.prevent="step(1)"
    @keydown.up.prevent="step(-1)"
  >
    <div class="row">
      <b>{{ counted(sheets.length, 'sheet') }}</b>
      <span class="spread" />
      <button class="button-link" title="Close (Esc)" @click="emit('close')"><X :size="16" /></button>
    </div>
    <div v-bind="containerProps" class="list">
      <div v-bind="wrapperProps">
        <button
          v-for="{ data: sheet } in shown"
          :key="sheet.id"
          class="sheet"
          :class="{ here: sheet.page === page }"
          :aria-current="sheet.page === page ? 'page' : undefined"
          :style="{ height: `${HEIGHT}px` }"
          @click="emit('page', sheet.page)"
        >
          <span class="picture"
            ><SheetPicture :source="source" :page="sheet.page" :size="[sheet.width, sheet.height]" :side="130"
          /></span>
          <span class="name">{{ sheet.label }}</span>
          <small class="quiet">{{ said(sheet.page) || `Page ${sheet.page}` }}</small>
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.pages {
  top: 8px;
  left: 8px;
  bottom: 8px;
  width: 190px;
  display: flex;
  flex-direction: column;
  padding: 8px;
}
.list {
  flex: 1;
  min-height: 0;
}
.sheet {
  display: flex;
  flex-direction: column;
  gap: 2px;
  width: 100%;
  padding: 6px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
  overflow: hidden;
}
.sheet:hover {
  background: var(--wash);
}
.sheet.here {
  border-left-color: var(--action);
  background: var(--wash);
}
.picture {
  flex: 1;
  min-height: 0;
  display: grid;
  place-items: center;
}
.picture canvas {
  max-width: 100%;
  max-height: 100%;
  border: 1px solid var(--hairline);
  background: #fff;
}
.name,
.sheet small {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
