<script setup lang="ts">
/** Takes a box that is drawn on the sheet; a click is a small one. */
import type { Place } from '@kindred/core/compare/numbered';
import { useEventListener } from '@vueuse/core';
import { computed, ref } from 'vue';
import { toPage, type SheetView } from '../drawing/table/view.ts';

const props = defineProps<{ view: SheetView }>();
const emit = defineEmits<{ drawn: [box: Place]; close: [] }>();
type At = [x: number, y: number];
const from = ref<At>();
const to = ref<At>();
/** Points around a click. */
const SMALL = 12;

const at = (event: PointerEvent): At => [event.offsetX, event.offsetY];
function begin(event: PointerEvent): void {
  (event.target as HTMLElement).setPointerCapture(event.pointerId);
  from.value = to.value = at(event);
}
function end(): void {
  if (!from.value || !to.value) return;
  const [a, b] = [toPage(props.view, from.value), toPage(props.view, to.value)];
  from.value = undefined;
  const grow = Math.max(Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1])) < 3 ? SMALL : 0;
  const [x, y] = [Math.min(a[0], b[0]) - grow, Math.min(a[1], b[1]) - grow];
  emit('drawn', [x, y, Math.abs(a[0] - b[0]) + 2 * grow, Math.abs(a[1] - b[1]) + 2 * grow]);
}
const box = computed(() => {
  if (!from.value || !to.value) return undefined;
  const [x, y] = [Math.min(from.value[0], to.value[0]), Math.min(from.value[1], to.value[1])];
  const [w, h] = [Math.abs(from.value[0] - to.value[0]), Math.abs(from.value[1] - to.value[1])];
  return { left: `${x}px`, top: `${y}px`, width: `${w}px`, height: `${h}px` };
});
useEventListener(document, 'keydown', (event) => event.key === 'Escape' && emit('close'));
</script>

<template>
  <div
    class="drawer"
    data-surface="box"
    @pointerdown.stop="begin"
    @pointermove="from && (to = at($event))"
    @pointerup="end"
    @pointercancel="from = undefined"
  >
    <div v-if="box" class="box" :style="box" />
  </div>
</template>

<style scoped>
.drawer {
  position: absolute;
  inset: 0;
  cursor: crosshair;
  touch-action: none;
}
.box {
  position: absolute;
  border: 1.5px dashed var(--ink);
  background: color-mix(in srgb, var(--ink) 8%, transparent);
  pointer-events: none;
}
</style>
