<script setup lang="ts">
/** Markups over a page, and the pointer on it: draws new ones, chooses, moves and reshapes what is there. */
import type { Snap, SnapKind } from '@kindred/core/drawing/vectors/snap';
import type { Box, MarkupShape, Point } from '@kindred/core/markup/shapes';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { matrixOf, toPage, type SheetView, type Size } from '../drawing/table/view.ts';
import type { Sketch } from '../drawing/tools/sketches.ts';
import { MarkupStage, type Mark, type Pin } from './markup-stage.ts';

const props = defineProps<{
  marks: readonly Mark[];
  pins: readonly Pin[];
  view: SheetView;
  window: Size;
  /** `look`, `choose`, `point`: a click names a place; `draw`: by the sketch. */
  mode: 'look' | 'choose' | 'point' | 'draw';
  sketch: Sketch | undefined;
  chosen: readonly string[];
  /** What was drawn and is not kept yet. */
  pending: MarkupShape | null;
  /** A place that was looked for. */
  found: Box | undefined;
  /** What a place of the page is caught by, within a reach in points. */
  snap: ((at: Point, reach: number, from: Point | undefined) => Snap | undefined) | undefined;
  /** What the shape that is drawn measures, in words. */
  sayMeasure: (shape: MarkupShape) => string;
}>();
const emit = defineEmits<{
  drawn: [shape: MarkupShape];
  point: [at: Point];
  choose: [ids: string[]];
  reshaped: [id: string, shape: MarkupShape];
  moved: [ids: string[], dx: number, dy: number];
  turned: [angle: number];
  pin: [id: string];
}>();

/** Pixels within which the drawing catches the pointer. */
const REACH = 11;
const CAUGHT: Record<SnapKind, string> = {
  end: 'End',
  crossing: 'Crossing',
  centre: 'Centre',
  middle: 'Middle',
  perpendicular: 'Right angle',
  parallel: 'Parallel',
  'on line': 'On the line',
};

const box = ref<HTMLDivElement>();
let stage: MarkupStage;
onMounted(() => {
  stage = new MarkupStage(box.value!, {
    choose: (ids, more) => emit('choose', more ? [...new Set([...props.chosen, ...ids])] : ids),
    reshaped: (id, shape) => emit('reshaped', id, shape),
    movedBy: (ids, dx, dy) => emit('moved', ids, dx, dy),
    turned: (angle) => emit('turned', angle),
    pin: (id) => emit('pin', id),
  });
  watch(
    () => [props.view, props.window] as const,
    ([view, window]) => stage.setView(matrixOf(view), view.zoom, window),
    { immediate: true },
  );
  watch(
    () => props.marks,
    (marks) => stage.setMarks(marks),
    { immediate: true },
  );
  watch(
    () => props.pins,
    (pins) => stage.setPins(pins),
    { immediate: true },
  );
  watch(
    () => props.chosen,
    (ids) => stage.setChosen(ids),
    { immediate: true },
  );
  watch(
    () => props.found,
    (box) => stage.setFound(box),
    { immediate: true },
  );
  watch(
    () => props.mode,
    (mode) => stage.setLive(mode === 'look' || mode === 'choose'),
    { immediate: true },
  );
  watch(
    () => [props.sketch, props.pending] as const,
    ([, pending]) => stage.setGrowing(pending ?? undefined, '', undefined),
  );
});
onBeforeUnmount(() => stage.destroy());

const windowPoint = (event: PointerEvent): Point => {
  const { left, top } = box.value!.getBoundingClientRect();
  return [event.clientX - left, event.clientY - top];
};
const rounded = ([x, y]: Point): Point => [Math.round(x * 100) / 100, Math.round(y * 100) / 100];

/** The place on the page, caught by the drawing where something is near; Alt lets go. */
function placeOf(event: PointerEvent): { at: Point; caught: Snap | undefined } {
  const at = toPage(props.view, windowPoint(event));
  const caught = event.altKey ? undefined : props.snap?.(at, REACH / props.view.zoom, props.sketch?.from());
  return { at: rounded(caught ? [caught.x, caught.y] : at), caught };
}
function show(shape: MarkupShape | undefined, caught: Snap | undefined): void {
  stage.setGrowing(
    shape,
    shape ? props.sayMeasure(shape) : '',
    caught && { x: caught.x, y: caught.y, word: CAUGHT[caught.kind] },
  );
}

/** Where a box for choosing begins, on the page. */
let boxFrom: Point | undefined;
let last: MarkupShape | undefined;
function onDown(event: PointerEvent): void {
  if (event.button !== 0 || props.mode === 'look' || props.pending) return;
  if (props.mode === 'choose') {
    const at = windowPoint(event);
    if (stage.holds(at)) return;
    boxFrom = toPage(props.view, at);
    emit('choose', []);
  } else if (props.mode === 'point') emit('point', placeOf(event).at);
  else if (props.sketch) props.sketch.start(placeOf(event).at);
  box.value!.setPointerCapture(event.pointerId);
  event.stopPropagation();
}
function onMove(event: PointerEvent): void {
  if (boxFrom) return show({ kind: 'rectangle', points: [boxFrom, toPage(props.view, windowPoint(event))] }, undefined);
  if (props.mode !== 'draw' || !props.sketch || props.pending) return;
  const { at, caught } = placeOf(event);
  last = props.sketch.move(at).shape;
  show(last, caught);
}
function onUp(event: PointerEvent): void {
  if (boxFrom) {
    const [x, y] = toPage(props.view, windowPoint(event));
    const [left, top] = [Math.min(x, boxFrom[0]), Math.min(y, boxFrom[1])];
    emit('choose', stage.within([left, top, Math.abs(x - boxFrom[0]), Math.abs(y - boxFrom[1])]));
    boxFrom = undefined;
    show(undefined, undefined);
    return;
  }
  if (event.button !== 0 || props.mode !== 'draw' || !props.sketch) return;
  take(props.sketch.end(placeOf(event).at));
}
function take({ shape, done }: { shape?: MarkupShape; done: boolean }): void {
  show(done ? undefined : shape, undefined);
  if (done && shape) emit('drawn', shape);
}
defineExpose({ finish: () => props.sketch && take(props.sketch.finish()) });
</script>

<template>
  <div
    ref="box"
    class="over"
    :data-marks="marks.length"
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="onUp"
    @dblclick="sketch && take(sketch.finish())"
  />
</template>

<style scoped>
.over {
  position: absolute;
  inset: 0;
}
</style>
