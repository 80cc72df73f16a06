<script lang="ts">
export interface Place {
  /** Pixels from the upper left corner of the picture. */
  x: number;
  y: number;
}
</script>

<script setup lang="ts">
/** The picture of the scene: what is done on it by mouse, finger and key is told; what it means is for others to say. */
import { useElementSize, useEventListener } from '@vueuse/core';
import { onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { isTyping } from '../platform/keyboard.ts';
import type { Picked } from './engine/picking.ts';
import { SceneEngine } from './engine/scene-engine.ts';

defineOptions({ inheritAttrs: false });
const props = defineProps<{
  /** Drawing a frame, instead of turning. */
  framing: boolean;
  /** The pointer is looked after while no button is pressed. */
  hovering: boolean;
}>();
const emit = defineEmits<{
  ready: [engine: SceneEngine];
  failed: [];
  /** The picture was lost, and came back. */
  lost: [];
  back: [];
  click: [place: Place, add: boolean];
  hover: [place: Place];
  menu: [place: Place, picked: Picked | null];
  frame: [from: Place, to: Place, add: boolean];
}>();

const canvas = ref<HTMLCanvasElement>();
const box = ref<HTMLElement>();
const { width, height } = useElementSize(box);
const engine = shallowRef<SceneEngine>();

function begin(): void {
  try {
    engine.value = new SceneEngine(canvas.value!);
  } catch (error) {
    // three.js says so in these words; anything else is no matter of the browser.
    if (!/WebGL/.test((error as Error).message)) throw error;
    emit('failed');
    return;
  }
  engine.value.resize(width.value, height.value);
  emit('ready', engine.value);
}
onMounted(begin);
onBeforeUnmount(() => engine.value?.dispose());
watch([width, height, engine], () => engine.value?.resize(width.value, height.value));
useEventListener(canvas, 'webglcontextlost', (event) => {
  event.preventDefault();
  emit('lost');
});
useEventListener(canvas, 'webglcontextrestored', () => {
  engine.value?.touch();
  emit('back');
});

function placeOf({ clientX, clientY }: MouseEvent): Place {
  const { left, top } = canvas.value!.getBoundingClientRect();
  return { x: clientX - left, y: clientY - top };
}
/** Farther, and it was no click. Pixels. */
const STILL = 4;
let pressed: { place: Place; button: number } | undefined;
const frame = ref<{ from: Place; to: Place }>();
function onDown(event: PointerEvent): void {
  pressed = { place: placeOf(event), button: event.button };
  if (props.framing && event.button === 0) frame.value = { from: pressed.place, to: pressed.place };
  else if (event.button === 0 && event.isPrimary) {
    const picked = engine.value?.pick(pressed.place.x, pressed.place.y);
    if (picked) engine.value!.turnAbout(picked);
  }
  canvas.value!.focus({ preventScroll: true });
}
function onMove(event: PointerEvent): void {
  if (frame.value) frame.value = { from: frame.value.from, to: placeOf(event) };
  else if (props.hovering && !event.buttons) emit('hover', placeOf(event));
}
function onUp(event: PointerEvent): void {
  if (!pressed) return;
  const { place, button } = pressed;
  pressed = undefined;
  const at = placeOf(event);
  const add = event.ctrlKey || event.metaKey || event.shiftKey;
  const drawn = frame.value;
  frame.value = undefined;
  const still = Math.hypot(at.x - place.x, at.y - place.y) <= STILL;
  if (drawn && !still) emit('frame', drawn.from, drawn.to, add);
  else if (still && button === 2) emit('menu', at, engine.value?.pick(at.x, at.y) ?? null);
  else if (still && button === 0) emit('click', at, add);
}
function onDouble(event: MouseEvent): void {
  const { x, y } = placeOf(event);
  const picked = engine.value?.pick(x, y);
  if (picked && !props.hovering) engine.value!.jumpTo(picked);
}
// Framing takes the left button away from the camera.
watch(
  () => props.framing,
  (framing) => {
    if (engine.value) engine.value.cameras.controls.enabled = !framing && engine.value.cameras.mode === 'orbit';
  },
);
function onKey(event: KeyboardEvent): void {
  const { cameras } = engine.value ?? {};
  if (!cameras || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
  const down = event.type === 'keydown';
  const walked = cameras.standing.key(event.key, down, event.shiftKey);
  // In orbit keys count on the picture itself: arrows belong to lists elsewhere.
  const turned = down && event.target === canvas.value && cameras.key(event.key, event.shiftKey);
  if (!walked && !turned) return;
  event.preventDefault();
  event.stopImmediatePropagation();
}
useEventListener(window, 'keydown', onKey, { capture: true });
useEventListener(window, 'keyup', onKey, { capture: true });
defineExpose({ canvas });
</script>

<template>
  <div ref="box" class="stage">
    <canvas
      ref="canvas"
      v-bind="$attrs"
      tabindex="0"
      role="application"
      aria-label="Scene: arrows turn, shift and arrows move, plus and minus go nearer and farther"
      @pointerdown="onDown"
      @pointermove="onMove"
      @pointerup="onUp"
      @dblclick="onDouble"
      @contextmenu.prevent
    />
    <div
      v-if="frame"
      class="frame"
      :style="{
        left: `${Math.min(frame.from.x, frame.to.x)}px`,
        top: `${Math.min(frame.from.y, frame.to.y)}px`,
        width: `${Math.abs(frame.to.x - frame.from.x)}px`,
        height: `${Math.abs(frame.to.y - frame.from.y)}px`,
      }"
    />
    <slot />
  </div>
</template>

<style scoped>
.stage {
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: hidden;
  background: #eeebe2;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  display: block;
  touch-action: none;
  outline-offset: -2px;
}
.frame {
  position: absolute;
  border: 1px dashed var(--action);
  background: color-mix(in srgb, var(--action) 12%, transparent);
  pointer-events: none;
}
</style>
