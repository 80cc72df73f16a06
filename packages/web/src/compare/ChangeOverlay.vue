<script setup lang="ts">
/** Changes over the sheet after: what came, what went, where things were moved from, each with its number. */
import { computed } from 'vue';
import { matrixOf, toWindow, type SheetView } from '../drawing/table/view.ts';
import { CHANGE_LOOK } from './change-look.ts';
import type { NumberedChange } from './sheet-comparison.ts';

const props = defineProps<{ changes: readonly NumberedChange[]; chosen: number | undefined; view: SheetView }>();
const emit = defineEmits<{ choose: [number: number] }>();

const path = (ends: readonly number[], [dx, dy] = [0, 0]): string => {
  const parts: string[] = [];
  for (let i = 0; i < ends.length; i += 4)
    parts.push(`M${ends[i]! + dx} ${ends[i + 1]! + dy}L${ends[i + 2]! + dx} ${ends[i + 3]! + dy}`);
  return parts.join('');
};
/** Where it was, faint and dashed, and where it is. */
const drawn = computed(() =>
  props.changes.map(({ number, kind, ends = [], shift, turn, mirrored }) => ({
    ...CHANGE_LOOK[kind],
    number,
    is: path(ends),
    was: kind === 'moved' && shift && !turn && !mirrored ? path(ends, [-shift[0], -shift[1]]) : '',
  })),
);
const framed = computed(() =>
  props.changes.map(({ number, kind, place: [x, y, w, h] }) => {
    const [a, b] = [toWindow(props.view, [x, y]), toWindow(props.view, [x + w, y + h])];
    const [left, top] = [Math.min(a[0], b[0]) - 5, Math.min(a[1], b[1]) - 5];
    const box = { x: left, y: top, width: Math.abs(a[0] - b[0]) + 10, height: Math.abs(a[1] - b[1]) + 10 };
    return { ...CHANGE_LOOK[kind], number, box };
  }),
);
</script>

<template>
  <svg class="overlay" aria-hidden="true">
    <g :transform="`matrix(${matrixOf(view).join(' ')})`">
      <g v-for="one in drawn" :key="one.number" :style="{ stroke: one.colour }">
        <path v-if="one.was" class="was" :d="one.was" />
        <path :d="one.is" :stroke-dasharray="one.dash" />
      </g>
    </g>
    <g
      v-for="one in framed"
      :key="one.number"
      class="frame"
      :class="{ chosen: one.number === chosen }"
      :style="{ stroke: one.colour, fill: one.colour }"
      @pointerdown.stop="emit('choose', one.number)"
    >
      <rect v-bind="one.box" />
      <text :x="one.box.x" :y="one.box.y - 4">{{ one.sign }} {{ one.number }}</text>
    </g>
  </svg>
</template>

<style scoped>
.overlay {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
path {
  fill: none;
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
}
.was {
  stroke-dasharray: 3 3;
  opacity: 0.65;
}
.frame {
  pointer-events: all;
  cursor: pointer;
}
.frame rect {
  stroke-width: 1px;
  fill-opacity: 0.04;
}
.frame text {
  font:
    600 12px 'Archivo Variable',
    sans-serif;
  stroke: #fff;
  stroke-width: 3px;
  paint-order: stroke;
}
.frame.chosen rect {
  stroke-width: 2.5px;
  fill-opacity: 0.12;
}
</style>
