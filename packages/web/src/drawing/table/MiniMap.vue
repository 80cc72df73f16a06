<script setup lang="ts">
/** The whole sheet, small, with the part that the window shows; a click goes there. */
import type { Point } from '@kindred/core/markup/shapes';
import { computed } from 'vue';
import SheetPicture from './SheetPicture.vue';
import type { SheetSource } from './sources.ts';
import { shownBox, type SheetView, type Size } from './view.ts';

const props = defineProps<{ source: SheetSource; page: number; size: Size; view: SheetView; window: Size }>();
const emit = defineEmits<{ go: [at: Point] }>();
const SIDE = 150;
const scale = computed(() => SIDE / Math.max(...props.size));
const small = computed((): Size => [props.size[0] * scale.value, props.size[1] * scale.value]);
const shown = computed(() => {
  const [x, y, w, h] = shownBox(props.view, props.window);
  const [left, top] = [Math.max(0, x), Math.max(0, y)];
  const [right, bottom] = [Math.min(props.size[0], x + w), Math.min(props.size[1], y + h)];
  return {
    left: `${left * scale.value}px`,
    top: `${top * scale.value}px`,
    width: `${Math.max(4, (right - left) * scale.value)}px`,
    height: `${Math.max(4, (bottom - top) * scale.value)}px`,
  };
});
/** Where all of it is seen there is nowhere to go. */
const isWhole = computed(() => {
  const [x, y, w, h] = shownBox(props.view, props.window);
  return x <= 0 && y <= 0 && x + w >= props.size[0] && y + h >= props.size[1];
});
function go(event: PointerEvent): void {
  const { left, top } = (event.currentTarget as HTMLElement).getBoundingClientRect();
  emit('go', [(event.clientX - left) / scale.value, (event.clientY - top) / scale.value]);
}
</script>

<template>
  <div
    v-if="!isWhole"
    class="map"
    aria-hidden="true"
    :style="{ width: `${small[0]}px`, height: `${small[1]}px` }"
    @pointerdown.stop="go"
    @pointermove.stop="$event.buttons && go($event)"
  >
    <SheetPicture :source="source" :page="page" :size="size" :side="SIDE" />
    <i :style="shown" />
  </div>
</template>

<style scoped>
.map {
  position: absolute;
  right: 10px;
  bottom: 10px;
  z-index: 1;
  border: 1px solid var(--graphite);
  background: #fff;
  overflow: hidden;
  cursor: pointer;
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
i {
  position: absolute;
  border: 1.5px solid var(--needs-you);
  background: rgb(180 80 45 / 9%);
  pointer-events: none;
}
@media (max-width: 700px) {
  .map {
    display: none;
  }
}
</style>
