<script setup lang="ts">
/** Markups on a page as vectors in page points, and the drawing of new ones with the pointer. */
import type { Markup } from '@kindred/contract/markup/markup';
import { cloudPath, leaderStart, type MarkupShape, type Point } from '@kindred/core/markup/shapes';
import { computed, ref } from 'vue';
import { MARKUP_LOOK } from './signs.ts';

const props = defineProps<{
  markups: Markup[];
  zoom: number;
  size: [number, number];
  tool: string;
  selected: string | null;
  pins: { id: string; number: number; x: number; y: number }[];
}>();
const emit = defineEmits<{
  drawn: [shape: MarkupShape];
  select: [markupId: string];
  point: [at: Point];
  pin: [issueId: string];
}>();

const layer = ref<SVGRectElement>();
const from = ref<Point>();
const to = ref<Point>();
const unit = computed(() => 1 / props.zoom);
/** Sizes on paper grow when the sheet is small on the screen, so that marks stay legible. */
const text = computed(() => Math.max(11, 11 * unit.value));

function at(event: PointerEvent): Point {
  const matrix = layer.value!.getScreenCTM()!.inverse();
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
  return [Math.round(point.x * 100) / 100, Math.round(point.y * 100) / 100];
}
function onDown(event: PointerEvent): void {
  if (props.tool === 'look' || event.button !== 0) return;
  event.stopPropagation();
  if (props.tool === 'issue') {
    emit('point', at(event));
    return;
  }
  from.value = to.value = at(event);
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
}
function onMove(event: PointerEvent): void {
  if (from.value) to.value = at(event);
}
function onUp(): void {
  const [a, b] = [from.value, to.value];
  from.value = to.value = undefined;
  if (!a || !b) return;
  const far = Math.hypot(b[0] - a[0], b[1] - a[1]) * props.zoom > 6;
  if (far) emit('drawn', shapeFrom(a, b));
}
function shapeFrom(a: Point, b: Point): MarkupShape {
  switch (props.tool) {
    case 'cloud':
      return { kind: 'cloud', points: [a, b] };
    case 'rectangle':
      return { kind: 'rectangle', points: [a, b] };
    case 'arrow':
      return { kind: 'arrow', points: [a, b] };
    default: {
      const [w, h] = [190 * Math.max(1, unit.value), 52 * Math.max(1, unit.value)];
      return { kind: 'callout', target: a, box: [b[0] - (b[0] < a[0] ? w : 0), b[1] - (b[1] < a[1] ? h : 0), w, h] };
    }
  }
}
const growing = computed(() => (from.value && to.value ? shapeFrom(from.value, to.value) : null));
const bulge = computed(() => Math.max(12, 9 * unit.value));
function arrowHead([[ax, ay], [bx, by]]: [Point, Point]): string {
  const angle = Math.atan2(by - ay, bx - ax);
  const length = 12 * Math.max(1, unit.value);
  const wing = (turn: number) => `${bx - length * Math.cos(angle + turn)} ${by - length * Math.sin(angle + turn)}`;
  return `M${wing(0.45)}L${bx} ${by}L${wing(-0.45)}`;
}
const tagAt = ({ shape }: Markup): Point =>
  shape.kind === 'callout'
    ? [shape.box[0], shape.box[1]]
    : shape.points.reduce((best, point) => (point[1] < best[1] ? point : best));
/** The words of a callout in lines, at the largest size that its box holds. */
function setWords(value: string, [, , width, height]: readonly number[]): { size: number; lines: string[] } {
  for (let size = text.value; ; size *= 0.92) {
    const most = Math.max(4, Math.floor((width! - size * 1.4) / (size * 0.5)));
    const lines: string[] = [];
    for (const word of value.split(/\s+/)) {
      if (lines.length && `${lines.at(-1)} ${word}`.length <= most) lines[lines.length - 1] += ` ${word}`;
      else lines.push(word);
    }
    if (lines.length * size * 1.25 + size * 0.7 <= height! || size < 5) return { size, lines };
  }
}
const drawnShapes = computed(() => [
  ...props.markups.map((markup) => ({ markup, shape: markup.shape, colour: MARKUP_LOOK[markup.status].colour })),
  ...(growing.value ? [{ markup: null, shape: growing.value, colour: '#14706A' }] : []),
]);
</script>

<template>
  <rect
    ref="layer"
    :width="size[0]"
    :height="size[1]"
    fill="transparent"
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="onUp"
  />
  <g
    v-for="{ markup, shape, colour } in drawnShapes"
    :key="markup?.id ?? 'growing'"
    class="markup"
    :class="{ selected: markup && markup.id === selected, draft: markup?.draft, idle: tool === 'look' }"
    :stroke="colour"
    :stroke-width="2 * unit"
    :stroke-dasharray="markup?.draft ? `${7 * unit} ${4 * unit}` : undefined"
    fill="none"
    @pointerdown="tool === 'look' && markup && ($event.stopPropagation(), emit('select', markup.id))"
  >
    <path v-if="shape.kind === 'cloud'" :d="cloudPath(shape.points, bulge)" :fill="colour" fill-opacity="0.07" />
    <rect
      v-else-if="shape.kind === 'rectangle'"
      :x="Math.min(shape.points[0][0], shape.points[1][0])"
      :y="Math.min(shape.points[0][1], shape.points[1][1])"
      :width="Math.abs(shape.points[1][0] - shape.points[0][0])"
      :height="Math.abs(shape.points[1][1] - shape.points[0][1])"
      :fill="colour"
      fill-opacity="0.07"
    />
    <template v-else-if="shape.kind === 'arrow'">
      <path :d="`M${shape.points[0].join(' ')}L${shape.points[1].join(' ')}`" />
      <path :d="arrowHead(shape.points)" />
    </template>
    <template v-else>
      <path :d="`M${leaderStart(shape.target, shape.box).join(' ')}L${shape.target.join(' ')}`" />
      <circle :cx="shape.target[0]" :cy="shape.target[1]" :r="3.5 * unit" :fill="colour" />
      <rect
        :x="shape.box[0]"
        :y="shape.box[1]"
        :width="shape.box[2]"
        :height="shape.box[3]"
        fill="#FFFFFF"
        fill-opacity="0.94"
      />
      <template v-if="markup">
        <text
          v-for="words in [setWords(markup.text, shape.box)]"
          :key="words.size"
          :y="shape.box[1] + words.size * 1.35"
          :font-size="words.size"
          stroke="none"
          fill="#1D2A2F"
        >
          <tspan
            v-for="(line, i) in words.lines"
            :key="i"
            :x="shape.box[0] + words.size * 0.7"
            :dy="i ? words.size * 1.25 : 0"
            >{{ line }}</tspan
          >
        </text>
      </template>
    </template>
    <g v-if="markup" :transform="`translate(${tagAt(markup).join(' ')}) scale(${unit})`" stroke-dasharray="none">
      <rect x="-1" y="-17" width="34" height="17" :fill="colour" stroke="none" />
      <text x="16" y="-4.5" text-anchor="middle" font-size="11" font-weight="600" stroke="none" fill="#fff"
        >{{ markup.number }} {{ MARKUP_LOOK[markup.status].symbol }}</text
      >
    </g>
  </g>
  <g
    v-for="pin in pins"
    :key="pin.id"
    class="markup idle"
    :transform="`translate(${pin.x} ${pin.y}) scale(${unit})`"
    @pointerdown.stop="emit('pin', pin.id)"
  >
    <path d="M0 0L-9 -16H9Z" fill="#6B3F69" />
    <rect x="-15" y="-33" width="30" height="17" fill="#6B3F69" />
    <text y="-20.5" text-anchor="middle" font-size="11" font-weight="600" fill="#fff">{{ pin.number }}</text>
  </g>
</template>

<style scoped>
.markup {
  pointer-events: none;
}
.markup.idle {
  pointer-events: auto;
  cursor: pointer;
}
.markup.selected {
  filter: drop-shadow(0 0 3px #14706a);
}
text {
  font-family: 'Archivo Variable', sans-serif;
}
</style>
