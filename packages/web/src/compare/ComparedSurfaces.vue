<script setup lang="ts">
/** Two sheets on the table: on each other, side by side, with a curtain, in turns. The one after carries what lies in the slot. */
import type { Similarity } from '@kindred/core/compare/similarity';
import { useIntervalFn } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import SheetTable from '../drawing/table/SheetTable.vue';
import type { SheetSource } from '../drawing/table/sources.ts';
import type { SheetView } from '../drawing/table/view.ts';
import type { CompareMode } from './compare-modes.ts';
import { viewBefore } from './view-before.ts';

interface Shown {
  source: SheetSource;
  page: number;
}
const props = defineProps<{
  before: Shown | undefined;
  after: Shown | undefined;
  /** From the sheet before to the one after, once it is known. */
  similarity: Similarity | undefined;
  mode: CompareMode;
}>();
const view = defineModel<SheetView | null>('view', { required: true });
const emit = defineEmits<{ /** The table has another width. */ resized: [] }>();
const table = ref<InstanceType<typeof SheetTable>>();
defineExpose({ table: () => table.value });

const under = computed(() => view.value && props.similarity && viewBefore(view.value, props.similarity));
const beforeStyle = computed(() => {
  const at = under.value;
  if (!at?.tilt) return {};
  return { transform: `rotate(${at.tilt}rad)`, transformOrigin: `${at.view.x}px ${at.view.y}px` };
});
/** Of the window: left of it the sheet before is seen. */
const curtain = ref(0.5);
const showsBefore = ref(false);
const { pause, resume } = useIntervalFn(() => (showsBefore.value = !showsBefore.value), 900, { immediate: false });
watch(
  () => props.mode,
  (now) => (now === 'turns' ? resume() : pause()),
  { immediate: true },
);
watch(
  () => props.mode === 'side',
  () => setTimeout(() => emit('resized'), 60),
);
const beforeClip = computed(() => (props.mode === 'curtain' ? `inset(0 ${(1 - curtain.value) * 100}% 0 0)` : 'none'));
</script>

<template>
  <div class="surfaces" :class="{ two: mode === 'side' }">
    <div v-if="mode === 'side'" class="surface">
      <SheetTable v-if="before" :view="under ? under.view : view" v-bind="before" :pans="false" />
    </div>
    <div class="surface">
      <SheetTable v-if="after" ref="table" v-model:view="view" v-bind="after" pans>
        <template #default="{ view: at }">
          <div
            v-if="before && under && (mode === 'curtain' || (mode === 'turns' && showsBefore))"
            class="before"
            :style="{ clipPath: beforeClip }"
          >
            <div class="tilt" :style="beforeStyle">
              <SheetTable :view="under.view" v-bind="before" :pans="false" />
            </div>
          </div>
          <slot :view="at" />
          <template v-if="mode === 'curtain'">
            <div class="seam" :style="{ left: `${curtain * 100}%` }" />
            <input
              v-model.number="curtain"
              class="curtain"
              type="range"
              min="0"
              max="1"
              step="0.01"
              aria-label="Curtain between before and after"
              @pointerdown.stop
            />
          </template>
        </template>
      </SheetTable>
    </div>
  </div>
</template>

<style scoped>
.surfaces {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
.surfaces.two {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.surface {
  position: relative;
  min-height: 0;
}
.surface + .surface {
  border-left: 2px solid var(--hairline);
}
.before,
.tilt {
  position: absolute;
  inset: 0;
}
.before {
  pointer-events: none;
}
.curtain {
  position: absolute;
  inset: auto 0 12px;
  width: 100%;
  margin: 0;
}
.seam {
  position: absolute;
  inset: 0 auto;
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
  pointer-events: none;
}
@media (max-width: 700px) {
  .surfaces.two {
    grid-template: minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr);
  }
}
</style>
