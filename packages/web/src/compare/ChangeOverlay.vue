<script setup lang="ts">
/** Changes over the sheet after: what came, what went, where things were moved from, each with its number. */
import { Similarity } from '@kindred/core/compare/similarity';
import { computed } from 'vue';
import { matrixOf, toWindow, type SheetView } from '../drawing/table/view.ts';
import type { ChangeColours } from './change-colours.ts';
import { CHANGE_LOOK } from './change-look.ts';
import type { ChangeKind } from '@kindred/core/compare/change-counts';
import { endsOf } from '@kindred/core/compare/ends';
import type { NumberedChange, Place } from '@kindred/core/compare/numbered';

const props = defineProps<{
  changes: readonly NumberedChange[];
  chosen: number | undefined;
  view: SheetView;
  colours: ChangeColours;
  /** Where something was asked for. */
  request?: Place;
  leftOut?: readonly Place[];
}>();
const lookOf = (kind: ChangeKind) => ({ ...CHANGE_LOOK[kind], colour: props.colours[kind] });
const emit = defineEmits<{ choose: [number: number] }>();

const path = (ends: readonly number[]): string => {
  const parts: string[] = [];
  for (let i = 0; i < ends.length; i += 4) parts.push(`M${ends[i]!} ${ends[i + 1]!}L${ends[i + 2]!} ${ends[i + 3]!}`);
  return parts.join('');
};
/** Where it was, faint and dashed, and where it is. */
const drawn = computed(() =>
  props.changes.map((change) => {
    const { was, after } = endsOf(change, Similarity.none);
    const gone = change.kind === 'removed';
    return {
      ...lookOf(change.kind),
      number: change.number,
      is: path(gone ? was : after),
      was: gone ? '' : path(was),
    };
  }),
);
/** In pixels of the window, `room` around it. */
function frame([x, y, w, h]: Place, room: number) {
  const [a, b] = [toWindow(props.view, [x, y]), toWindow(props.view, [x + w, y + h])];
  const [left, top] = [Math.min(a[0], b[0]) - room, Math.min(a[1], b[1]) - room];
  return { x: left, y: top, width: Math.abs(a[0] - b[0]) + 2 * room, height: Math.abs(a[1] - b[1]) + 2 * room };
}
const framed = computed(() =>
  props.changes.map(({ number, kind, place }) => ({ ...lookOf(kind), number, box: frame(place, 5) })),
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
    <rect v-for="(place, i) in leftOut" :key="i" class="left-out" v-bind="frame(place, 0)" />
    <rect v-if="request" class="request" v-bind="frame(request, 9)" rx="8" />
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
.left-out {
  fill: var(--graphite);
  fill-opacity: 0.18;
  stroke: var(--graphite);
  stroke-dasharray: 2 4;
}
.request {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2px;
  stroke-dasharray: 8 5;
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
