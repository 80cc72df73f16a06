<script setup lang="ts">
/** What lies over the picture: measures, marks, and where one is pointing. */
import type { SceneMark, SceneMeasure } from '@kindred/contract/scene/scene';
import type { Point } from '@kindred/core/scene/pick';
import { computed, ref } from 'vue';
import type { Aim } from './engine/picking.ts';
import { MOVABLE } from './measuring.ts';

type Pixel = readonly [number, number];
const props = defineProps<{
  toScreen: (at: Point) => Pixel | undefined;
  /** Grows with each picture that is drawn: places are looked up anew. */
  drawn: number;
  measures: readonly SceneMeasure[];
  marks: readonly SceneMark[];
  say: (measure: SceneMeasure) => string;
  /** Places that were pointed at for what is being measured or marked. */
  pending: readonly Point[];
  aim: Aim | null;
}>();
const emit = defineEmits<{ move: [measure: number, point: number, at: { x: number; y: number }] }>();

const SNAPS = { corner: 'corner', middle: 'middle of an edge', edge: 'edge', face: 'face' } as const;
const seen = (points: readonly Point[]): Pixel[] | undefined => {
  void props.drawn;
  const all = points.map(props.toScreen);
  return all.every((at) => at) ? (all as Pixel[]) : undefined;
};
const path = (points: readonly Pixel[], closed = false): string =>
  points.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join(' ') + (closed ? ' Z' : '');
const middle = (points: readonly Pixel[]): Pixel => {
  const at = points.length === 3 ? points[1]! : undefined;
  if (at) return at;
  const sum = (k: 0 | 1): number => points.reduce((total, point) => total + point[k], 0) / points.length;
  return [sum(0), sum(1)];
};
const shownMeasures = computed(() =>
  props.measures.flatMap((measure, i) => {
    const points = seen(measure.points);
    if (!points) return [];
    return [{ i, points, label: props.say(measure), at: middle(points), movable: MOVABLE.has(measure.kind) }];
  }),
);
const shownMarks = computed(() =>
  props.marks.flatMap((mark, i) => {
    const points = seen(mark.points);
    if (!points) return [];
    return [{ i, kind: mark.kind, text: mark.text, points, d: mark.kind === 'cloud' ? cloud(points) : path(points) }];
  }),
);
/** Arcs around the box of the points. */
function cloud(points: readonly Pixel[]): string {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const corners: Pixel[] = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
    [x0, y0],
  ];
  let d = `M${x0} ${y0}`;
  for (let k = 0; k < 4; k++) {
    const [[ax, ay], [bx, by]] = [corners[k]!, corners[k + 1]!];
    const arcs = Math.max(1, Math.round(Math.hypot(bx - ax, by - ay) / 16));
    const r = Math.hypot(bx - ax, by - ay) / arcs / 2;
    for (let i = 1; i <= arcs; i++)
      d += ` A${r} ${r} 0 0 1 ${(ax + ((bx - ax) * i) / arcs).toFixed(1)} ${(ay + ((by - ay) * i) / arcs).toFixed(1)}`;
  }
  return d;
}
const pendingSeen = computed(() => seen(props.pending) ?? []);
const aimed = computed(() => (props.aim ? seen([props.aim.at])?.[0] : undefined));
const aimedEdge = computed(() => (props.aim?.edge ? seen([...props.aim.edge]) : undefined));

const svg = ref<SVGSVGElement>();
let dragged: { measure: number; point: number } | undefined;
function grab(event: PointerEvent, measure: number, point: number): void {
  dragged = { measure, point };
  (event.target as Element).setPointerCapture(event.pointerId);
}
function drag({ clientX, clientY }: PointerEvent): void {
  if (!dragged) return;
  const { left, top } = svg.value!.getBoundingClientRect();
  emit('move', dragged.measure, dragged.point, { x: clientX - left, y: clientY - top });
}
</script>

<template>
  <svg ref="svg" class="overlay" aria-hidden="true" @pointermove="drag" @pointerup="dragged = undefined">
    <defs>
      <marker id="scene-arrow" markerWidth="9" markerHeight="9" refX="8" refY="4.5" orient="auto">
        <path d="M0 0 L9 4.5 L0 9 Z" />
      </marker>
      <marker id="scene-tick" markerWidth="10" markerHeight="10" refX="5" refY="5" orient="auto">
        <path d="M2 8 L8 2" class="tick" />
      </marker>
    </defs>
    <g v-for="mark in shownMarks" :key="`mark ${mark.i}`" class="mark" :data-kind="mark.kind">
      <path
        v-if="mark.kind !== 'text'"
        :d="mark.d"
        :marker-end="mark.kind === 'arrow' ? 'url(#scene-arrow)' : mark.kind === 'dimension' ? 'url(#scene-tick)' : ''"
        :marker-start="mark.kind === 'dimension' ? 'url(#scene-tick)' : ''"
      />
      <text v-if="mark.text" :x="mark.points.at(-1)![0] + 6" :y="mark.points.at(-1)![1] - 6">{{ mark.text }}</text>
    </g>
    <g v-for="measure in shownMeasures" :key="`measure ${measure.i}`" class="measure">
      <path :d="path(measure.points)" />
      <circle
        v-for="(point, k) in measure.points"
        :key="k"
        :cx="point[0]"
        :cy="point[1]"
        :r="measure.movable ? 5 : 3"
        :class="{ movable: measure.movable }"
        @pointerdown="measure.movable && grab($event, measure.i, k)"
      />
      <text :x="measure.at[0]" :y="measure.at[1] - 8">{{ measure.label }}</text>
    </g>
    <path v-if="pendingSeen.length" class="pending" :d="path([...pendingSeen, ...(aimed ? [aimed] : [])])" />
    <circle v-for="(point, k) in pendingSeen" :key="`p${k}`" class="pending" :cx="point[0]" :cy="point[1]" r="3" />
    <path v-if="aimedEdge" class="edge" :d="path(aimedEdge)" />
    <g v-if="aimed && aim" class="aim" :transform="`translate(${aimed[0]} ${aimed[1]})`" :data-snap="aim.kind">
      <rect v-if="aim.kind === 'corner'" x="-5" y="-5" width="10" height="10" />
      <path v-else-if="aim.kind === 'middle'" d="M0 -6 L6 5 L-6 5 Z" />
      <circle v-else-if="aim.kind === 'edge'" r="5" />
      <path v-else d="M-6 0 H6 M0 -6 V6" />
      <text x="10" y="-8">{{ SNAPS[aim.kind] }}</text>
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
  font-size: 12px;
}
text {
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
  font-family: var(--mono);
}
.measure path,
.measure circle {
  stroke: var(--ink);
  stroke-width: 1.5;
  fill: none;
}
.measure circle {
  fill: var(--sheet);
}
.measure text {
  text-anchor: middle;
  font-weight: 600;
}
.movable {
  pointer-events: auto;
  cursor: move;
}
.mark path {
  fill: none;
  stroke: var(--needs-you);
  stroke-width: 2;
}
.mark text {
  fill: var(--needs-you);
  font-weight: 600;
}
marker path {
  fill: var(--needs-you);
}
.tick {
  stroke: var(--needs-you);
  stroke-width: 1.5;
}
.pending {
  stroke: var(--action);
  stroke-dasharray: 4 3;
  fill: none;
}
.edge {
  stroke: var(--action);
  stroke-width: 2.5;
  fill: none;
}
.aim :not(text) {
  stroke: var(--action);
  stroke-width: 1.5;
  fill: color-mix(in srgb, var(--sheet) 70%, transparent);
}
.aim text {
  fill: var(--action);
}
</style>
