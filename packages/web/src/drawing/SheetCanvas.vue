<script setup lang="ts">
/** One page: the whole at low scale, and over it the visible part at full sharpness. Knows nothing of routes or stores. */
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import type { SheetSource } from './pdf.ts';

/** Where the sheet is: `x`, `y` of the page's corner in the window, `zoom` in pixels a point. */
export interface SheetView {
  x: number;
  y: number;
  zoom: number;
}

const props = defineProps<{ source: SheetSource; page: number; tool: string }>();
const emit = defineEmits<{ ready: [size: [number, number]] }>();
const view = defineModel<SheetView | null>('view', { default: null });

const SETTLE_MS = 90;
const OVERVIEW_PIXELS = 2200;
const box = ref<HTMLElement>();
const { width, height } = useElementSize(box);
const size = shallowRef<[number, number]>();
const overview = ref<HTMLCanvasElement>();
const detail = ref<HTMLCanvasElement>();
/** View at which the detail was drawn; it is moved with the sheet until it is drawn anew. */
const drawn = shallowRef<SheetView>();
let running = new AbortController();
let timer = 0;

function fitted(): SheetView {
  const [w, h] = size.value!;
  const zoom = Math.min((width.value - 32) / w, (height.value - 32) / h);
  return { x: (width.value - w * zoom) / 2, y: (height.value - h * zoom) / 2, zoom };
}
function fit(): void {
  view.value = fitted();
}

/** Shows a box of the page, [x, y, width, height] in points. */
function showBox([x, y, w, h]: [number, number, number, number]): void {
  const zoom = Math.min(4, Math.min(width.value / (w * 2.4), height.value / (h * 2.4)));
  view.value = { zoom, x: width.value / 2 - (x + w / 2) * zoom, y: height.value / 2 - (y + h / 2) * zoom };
}
function zoomAt(factor: number, px = width.value / 2, py = height.value / 2): void {
  const { x, y, zoom } = view.value!;
  const next = Math.min(64, Math.max(0.02, zoom * factor));
  view.value = { zoom: next, x: px - ((px - x) * next) / zoom, y: py - ((py - y) * next) / zoom };
}
defineExpose({ fit, showBox, zoomAt });

watch(
  () => [props.source, props.page, width.value > 0] as const,
  async ([source, page, measured]) => {
    if (!measured) return;
    size.value = undefined;
    drawn.value = undefined;
    const found = await source.size(page);
    if (source !== props.source || page !== props.page) return;
    size.value = found;
    view.value ??= fitted();
    emit('ready', found);
    // What is looked at comes first; the overview is for what moves into sight later.
    await drawDetail();
    await drawOverview();
  },
  { immediate: true },
);
watch(view, schedule);
watch([width, height], schedule);

async function drawOverview(): Promise<void> {
  if (!overview.value || !size.value) return;
  const scale = OVERVIEW_PIXELS / Math.max(...size.value);
  const canvas = document.createElement('canvas');
  canvas.width = Math.ceil(size.value[0] * scale);
  canvas.height = Math.ceil(size.value[1] * scale);
  await props.source.draw(props.page, canvas, 0, 0, scale, new AbortController().signal);
  overview.value.width = canvas.width;
  overview.value.height = canvas.height;
  overview.value.getContext('2d')!.drawImage(canvas, 0, 0);
}

function schedule(): void {
  clearTimeout(timer);
  timer = window.setTimeout(() => void drawDetail(), SETTLE_MS);
}
async function drawDetail(): Promise<void> {
  const at = view.value;
  if (!at || !size.value || !detail.value || !width.value) return;
  running.abort();
  const mine = (running = new AbortController());
  const ratio = Math.min(2, window.devicePixelRatio || 1);
  const canvas = document.createElement('canvas');
  canvas.width = Math.ceil(width.value * ratio);
  canvas.height = Math.ceil(height.value * ratio);
  await props.source.draw(props.page, canvas, -at.x / at.zoom, -at.y / at.zoom, at.zoom * ratio, mine.signal);
  if (mine.signal.aborted || !detail.value) return;
  detail.value.width = canvas.width;
  detail.value.height = canvas.height;
  const context = detail.value.getContext('2d')!;
  // Only the page itself: around it the table shows.
  context.beginPath();
  context.rect(at.x * ratio, at.y * ratio, size.value[0] * at.zoom * ratio, size.value[1] * at.zoom * ratio);
  context.clip();
  context.drawImage(canvas, 0, 0);
  drawn.value = at;
}
onBeforeUnmount(() => running.abort());

const pageStyle = computed(() =>
  view.value && size.value
    ? {
        transform: `translate(${view.value.x}px, ${view.value.y}px)`,
        width: `${size.value[0] * view.value.zoom}px`,
        height: `${size.value[1] * view.value.zoom}px`,
      }
    : { display: 'none' },
);
const detailStyle = computed(() => {
  const [at, was] = [view.value, drawn.value];
  if (!at || !was) return { display: 'none' };
  const scale = at.zoom / was.zoom;
  return {
    width: `${width.value}px`,
    height: `${height.value}px`,
    transform: `translate(${at.x - was.x * scale}px, ${at.y - was.y * scale}px) scale(${scale})`,
  };
});

useEventListener(box, 'wheel', onWheel, { passive: false });
function onWheel(event: WheelEvent): void {
  event.preventDefault();
  if (!view.value || !box.value) return;
  const { left, top } = box.value.getBoundingClientRect();
  zoomAt(Math.exp(-event.deltaY * 0.0016), event.clientX - left, event.clientY - top);
}
let dragging: { x: number; y: number } | undefined;
function onDown(event: PointerEvent): void {
  const pans = props.tool === 'look' ? event.button < 2 : event.button === 1;
  if (!pans) return;
  dragging = { x: event.clientX, y: event.clientY };
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}
function onMove(event: PointerEvent): void {
  if (!dragging || !view.value) return;
  view.value = {
    ...view.value,
    x: view.value.x + event.clientX - dragging.x,
    y: view.value.y + event.clientY - dragging.y,
  };
  dragging = { x: event.clientX, y: event.clientY };
}
</script>

<template>
  <div
    ref="box"
    class="canvas"
    :class="tool"
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="dragging = undefined"
    @pointercancel="dragging = undefined"
  >
    <div class="paper" :style="pageStyle"><canvas ref="overview" /></div>
    <canvas ref="detail" class="detail" :style="detailStyle" />
    <svg v-if="view && size" class="marks" :width="width" :height="height">
      <g :transform="`translate(${view.x} ${view.y}) scale(${view.zoom})`"><slot :zoom="view.zoom" :size="size" /></g>
    </svg>
  </div>
</template>

<style scoped>
.canvas {
  position: relative;
  width: 100%;
  height: 100%;
  overflow: hidden;
  background: #e4e0d5;
  cursor: grab;
  touch-action: none;
}
.canvas:active {
  cursor: grabbing;
}
.canvas:not(.look) {
  cursor: crosshair;
}
.paper {
  position: absolute;
  top: 0;
  left: 0;
  background: #fff;
  box-shadow: 0 1px 8px rgb(29 42 47 / 22%);
}
.paper canvas {
  width: 100%;
  height: 100%;
  display: block;
}
.detail {
  position: absolute;
  top: 0;
  left: 0;
  transform-origin: 0 0;
}
.marks {
  position: absolute;
  inset: 0;
}
</style>
