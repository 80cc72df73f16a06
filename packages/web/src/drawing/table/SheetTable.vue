<script setup lang="ts">
/** One page on the table: the whole at low scale, over it the visible part at full sharpness. Knows nothing of tools or markups. */
import type { Box, Point } from '@kindred/core/markup/shapes';
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { Painter, type Patch } from './painter.ts';
import type { SheetSource } from './sources.ts';
import {
  fitted,
  fittedWidth,
  matrixOf,
  panned,
  showing,
  toWindow,
  turned,
  zoomedAt,
  type SheetView,
  type Size,
} from './view.ts';

const props = defineProps<{ source: SheetSource; page: number; /** A drag moves the sheet. */ pans: boolean }>();
const emit = defineEmits<{ ready: [size: Size]; /** What is looked at is there for the first time. */ seen: [] }>();
const view = defineModel<SheetView | null>('view', { default: null });

const SETTLE_MS = 90;
const box = ref<HTMLElement>();
const { width, height } = useElementSize(box);
const window_ = computed((): Size => [width.value, height.value]);
const size = shallowRef<Size>();
const overview = ref<HTMLCanvasElement>();
const detail = ref<HTMLCanvasElement>();
const drawn = shallowRef<Patch>();
let painter: Painter | undefined;
let timer = 0;

const change = (next: (at: SheetView) => SheetView): void => {
  if (view.value) view.value = next(view.value);
};
const middle = (): [number, number] => [width.value / 2, height.value / 2];
defineExpose({
  fit: () => size.value && change(({ turn }) => fitted(size.value!, window_.value, turn)),
  fitWidth: () => size.value && change(({ turn }) => fittedWidth(size.value!, window_.value, turn)),
  turn: () => change((at) => turned(at, window_.value)),
  /** Shows a box of the page with some of what stands around it. */
  showBox: ([x, y, w, h]: Box) =>
    change(({ turn }) => {
      const [aside, above] = [Math.max(w * 0.7, 20), Math.max(h * 0.7, 20)];
      return showing([x - aside, y - above, w + 2 * aside, h + 2 * above], window_.value, turn, 4);
    }),
  /** What is drawn has changed: layers were switched. */
  async redraw(): Promise<void> {
    painter?.forget();
    await draw();
    await drawOverview();
  },
  /** The point of the page comes into the middle of the window. */
  centreOn: (at: Point) =>
    change((view) => {
      const [x, y] = toWindow(view, at);
      return panned(view, width.value / 2 - x, height.value / 2 - y);
    }),
  zoomAt: (factor: number) => change((at) => zoomedAt(at, factor, middle())),
});

watch(
  () => [props.source, props.page, width.value > 0] as const,
  async ([source, page, measured]) => {
    if (!measured) return;
    painter?.stop();
    size.value = drawn.value = undefined;
    const found = await source.size(page);
    if (source !== props.source || page !== props.page) return;
    size.value = found;
    view.value ??= fitted(found, window_.value);
    emit('ready', found);
    painter = new Painter(source, page, show);
    // What is looked at comes first; the overview is for what moves into sight later.
    await draw();
    await drawOverview();
  },
  { immediate: true },
);
watch([view, width, height], () => {
  clearTimeout(timer);
  timer = window.setTimeout(() => void draw(), SETTLE_MS);
});
async function draw(): Promise<void> {
  if (view.value && size.value && width.value)
    await painter?.want(view.value, window_.value, Math.min(2, window.devicePixelRatio || 1));
}
async function drawOverview(): Promise<void> {
  const mine = painter;
  const whole = size.value && (await mine?.overview(size.value));
  if (whole && mine === painter) paint(overview.value, whole);
  whole?.close();
}
function show(patch: Patch): void {
  paint(detail.value, patch.picture, patch);
  if (!drawn.value) emit('seen');
  drawn.value = patch;
}
/** Only the page itself: around it the table shows. */
function paint(canvas: HTMLCanvasElement | undefined, picture: ImageBitmap, patch?: Patch): void {
  if (!canvas || !size.value) return;
  canvas.width = picture.width;
  canvas.height = picture.height;
  const context = canvas.getContext('2d')!;
  if (patch) {
    const ratio = picture.width / patch.size[0];
    const [a, b, c, d, e, f] = matrixOf(patch.view);
    context.setTransform(a * ratio, b * ratio, c * ratio, d * ratio, e * ratio, f * ratio);
    context.beginPath();
    context.rect(0, 0, ...size.value);
    context.clip();
    context.resetTransform();
  }
  context.drawImage(picture, 0, 0);
}
onBeforeUnmount(() => {
  clearTimeout(timer);
  painter?.stop();
});

const css = (matrix: readonly number[]): string => `matrix(${matrix.join()})`;
const pageStyle = computed(() =>
  view.value && size.value
    ? { transform: css(matrixOf(view.value)), width: `${size.value[0]}px`, height: `${size.value[1]}px` }
    : { display: 'none' },
);
/** The patch as it was drawn, moved to where it belongs now. */
const detailStyle = computed(() => {
  const [at, was] = [view.value, drawn.value];
  if (!at || !was) return { display: 'none' };
  const scale = at.zoom / was.view.zoom;
  const angle = ((at.turn - was.view.turn) * Math.PI) / 2;
  const [cos, sin] = [Math.round(Math.cos(angle)) * scale, Math.round(Math.sin(angle)) * scale];
  const [x, y] = [at.x - cos * was.view.x + sin * was.view.y, at.y - sin * was.view.x - cos * was.view.y];
  return { width: `${was.size[0]}px`, height: `${was.size[1]}px`, transform: css([cos, sin, -sin, cos, x, y]) };
});

useEventListener(box, 'wheel', onWheel, { passive: false });
function onWheel(event: WheelEvent): void {
  event.preventDefault();
  const { left, top } = box.value!.getBoundingClientRect();
  change((at) => zoomedAt(at, Math.exp(-event.deltaY * 0.0016), [event.clientX - left, event.clientY - top]));
}

/** Fingers or a mouse that are down, by pointer: one pans, two come closer. */
const down = new Map<number, { x: number; y: number }>();
function onDown(event: PointerEvent): void {
  const pans = props.pans ? event.button < 2 : event.button === 1;
  const second = event.pointerType === 'touch' && down.size === 1;
  if (!pans && !second && event.pointerType !== 'touch') return;
  down.set(event.pointerId, { x: event.clientX, y: event.clientY });
  if (pans) (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}
function onMove(event: PointerEvent): void {
  const was = down.get(event.pointerId);
  if (!was) return;
  const is = { x: event.clientX, y: event.clientY };
  const other = [...down].find(([id]) => id !== event.pointerId)?.[1];
  if (other) {
    const { left, top } = box.value!.getBoundingClientRect();
    const apart = (at: { x: number; y: number }): number => Math.hypot(at.x - other.x, at.y - other.y) || 1;
    const between: [number, number] = [(is.x + other.x) / 2 - left, (is.y + other.y) / 2 - top];
    change((at) => panned(zoomedAt(at, apart(is) / apart(was), between), (is.x - was.x) / 2, (is.y - was.y) / 2));
  } else if (props.pans || event.pointerType !== 'touch') change((at) => panned(at, is.x - was.x, is.y - was.y));
  down.set(event.pointerId, is);
}
const onUp = ({ pointerId }: PointerEvent): void => void down.delete(pointerId);
</script>

<template>
  <div
    ref="box"
    class="table"
    :class="{ pans }"
    data-surface="sheet"
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="onUp"
    @pointercancel="onUp"
  >
    <div class="paper" :style="pageStyle"><canvas ref="overview" /></div>
    <canvas ref="detail" class="detail" :style="detailStyle" />
    <slot v-if="view && size && width" :view="view" :size="size" :window="window_" />
  </div>
</template>

<style scoped>
.table {
  position: relative;
  width: 100%;
  height: 100%;
  overflow: hidden;
  background: #e4e0d5;
  cursor: crosshair;
  touch-action: none;
}
.table.pans {
  cursor: grab;
}
.table.pans:active {
  cursor: grabbing;
}
.paper {
  position: absolute;
  top: 0;
  left: 0;
  transform-origin: 0 0;
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
</style>
